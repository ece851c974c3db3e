'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import ListSubheader from '@mui/material/ListSubheader';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import equal from 'fast-deep-equal';
import PageLink from '../shared/PageLink';
import { useMemo, useState } from 'react';
import { circuitOf, type CircuitsView, type OwnCircuitView } from '@/contract/bench';
import { nodesOf, readOwn } from '@/core/circuit/own';
import { ownTemplates } from '@/core/circuit/ownTemplates';
import { Diagram } from '../bench/Diagram';
import { newId, send } from '../shared/api';
import { useMay, usePerson } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { saveTextAsFile } from '../shared/saveAsFile';
import { sheet } from '../shared/sheet';
import { gloved } from '../shared/theme';
import { useKeys } from '../shared/useKeys';
import { usePrinting } from '../shared/usePrinting';
import { useView } from '../shared/useView';
import { ElementTable } from './ElementTable';
import { Measured } from './Measured';
import { SaysFields } from './SaysFields';
import { useCircuit } from './useCircuit';

/** A circuit of one's own: a small table, drawn as it is typed, with what a meter should show on it. */
export function Circuits({ initial }: { initial: CircuitsView }) {
  const { data, error, changed } = useView<CircuitsView>('/api/v1/kit/circuits', initial);
  const person = usePerson();
  const inHand = useCircuit(person.id);
  const { drawn } = inHand;
  const { circuit } = drawn;
  const read = useMemo(() => readOwn(circuit), [circuit]);
  const faults = 'faults' in read ? read.faults : [];
  const [clips, setClips] = useState<readonly [string, string] | null>(null);
  const [unread, setUnread] = useState<string | null>(null);
  const mayKeep = useMay('kit');
  const save = useMutation({
    mutationFn: ({ id, from, isAway }: { id: string; from: number; isAway: boolean }) =>
      send<{ id: string; revision: number }>('POST', '/api/v1/kit/circuits', {
        circuitId: id,
        from,
        circuit,
        isAway,
      }),
    onSuccess: async ({ revision }, { id, isAway }) => {
      if (isAway) inHand.open({ ...drawn, id: newId(), from: 0 }, 'put away');
      else if (id === drawn.id) inHand.saved(revision);
      else inHand.open({ ...drawn, id, from: revision }, 'saved as');
      await changed();
    },
  });
  const isPrinting = usePrinting();
  useKeys({ 'mod+z': inHand.takeBack });
  const onFile = data.circuits.find((c) => c.id === drawn.id) ?? null;
  const isSaved = onFile !== null && equal(onFile.circuit, circuit);
  const open = (value: string) => {
    const saved = data.circuits.find((c) => c.id === value);
    const template = ownTemplates.find((t) => t.name === value);
    setClips(null);
    if (saved)
      inHand.open({ id: saved.id, from: saved.revision, circuit: saved.circuit, readings: [] }, value);
    else if (template) inHand.open({ id: newId(), from: 0, circuit: template, readings: [] }, value);
  };
  const nodes = nodesOf(circuit);
  const on = clips && clips.every((n) => nodes.includes(n)) ? clips : null;
  return (
    <Box {...(isPrinting && { 'data-scheme': 'light', className: 'sheet', sx: sheet })}>
      <Box
        sx={{
          display: 'flex',
          gap: 1,
          alignItems: 'center',
          flexWrap: 'wrap',
          mb: 1.5,
          displayPrint: 'none',
        }}
      >
        <Typography variant="h1" sx={{ flexGrow: 1 }}>
          Circuits
        </Typography>
        <TextField
          select
          size="medium"
          label="Open"
          value={onFile?.id ?? ''}
          onChange={(e) => open(e.target.value)}
          sx={{ minWidth: 230 }}
        >
          {data.circuits.length > 0 && <ListSubheader>Saved</ListSubheader>}
          {data.circuits.map((c) => (
            <MenuItem key={c.id} value={c.id} sx={{ minHeight: 48 }}>
              {c.circuit.name}
            </MenuItem>
          ))}
          <ListSubheader>To begin with</ListSubheader>
          {ownTemplates.map((t) => (
            <MenuItem key={t.name} value={t.name} sx={{ minHeight: 48 }}>
              {t.name}
            </MenuItem>
          ))}
        </TextField>
        <Button component={PageLink} href="/kit" sx={gloved}>
          Back to the kit
        </Button>
      </Box>
      <ProblemNote error={error} />
      <Box
        sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 1, displayPrint: 'none' }}
      >
        <TextField
          size="medium"
          label="Name"
          value={circuit.name}
          error={circuit.name.trim() === ''}
          onChange={(e) => inHand.change({ name: e.target.value.slice(0, 80) }, 'name')}
          sx={{ minWidth: 280, flexGrow: 1, maxWidth: 480 }}
        />
        {mayKeep && (
          <Button
            variant="contained"
            sx={gloved}
            disabled={save.isPending || faults.length > 0 || isSaved || circuit.name.trim() === ''}
            onClick={() => save.mutate({ id: drawn.id, from: drawn.from, isAway: false })}
          >
            {isSaved ? 'Saved' : 'Save'}
          </Button>
        )}
        {mayKeep && drawn.from > 0 && !isSaved && (
          <Button
            sx={gloved}
            disabled={save.isPending || faults.length > 0}
            onClick={() => save.mutate({ id: newId(), from: 0, isAway: false })}
          >
            Save as another
          </Button>
        )}
        {mayKeep && isSaved && (
          <Button
            sx={gloved}
            disabled={save.isPending}
            onClick={() => save.mutate({ id: drawn.id, from: drawn.from, isAway: true })}
          >
            Put away
          </Button>
        )}
        <Button sx={gloved} disabled={!inHand.canTakeBack} onClick={inHand.takeBack}>
          Take back
        </Button>
        <Button
          sx={gloved}
          onClick={() =>
            saveTextAsFile(
              `${circuit.name || 'circuit'}.json`,
              JSON.stringify(circuit, null, 1),
              'application/json',
            )
          }
        >
          JSON
        </Button>
        <Button component="label" sx={gloved}>
          Bring in JSON
          <input
            type="file"
            accept="application/json,.json"
            aria-label="Circuit as JSON"
            hidden
            onChange={(e) => {
              const file = e.target.files?.[0];
              e.target.value = '';
              void file?.text().then((text) => {
                const found = circuitOf(text);
                setUnread(found ? null : file.name);
                if (found) inHand.open({ id: newId(), from: 0, circuit: found, readings: [] }, 'brought in');
              });
            }}
          />
        </Button>
        <Button sx={gloved} onClick={() => window.print()}>
          Print
        </Button>
      </Box>
      <ProblemNote error={save.error} />
      {unread && (
        <Typography role="alert" color="error">
          {unread} holds no circuit. Bring in a file that was saved here with “JSON”.
        </Typography>
      )}
      <OnFile saved={onFile} isSaved={isSaved} />
      <Typography variant="h2" sx={{ display: 'none', displayPrint: 'block' }}>
        {circuit.name}
      </Typography>
      <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: { lg: 'minmax(0, 760px) minmax(0, 1fr)' } }}>
        <Box sx={{ minWidth: 0 }}>
          <ElementTable inHand={inHand} faulty={faults.map((f) => f.field)} />
          <Box role="status">
            {faults.map((f, i) => (
              <Typography key={i} color="error">
                {f.field}: {f.says}. {f.remedy}
              </Typography>
            ))}
          </Box>
          <Box sx={{ mt: 1.5 }}>
            <SaysFields key={drawn.id} inHand={inHand} />
          </Box>
        </Box>
        <Box sx={{ minWidth: 0 }}>
          {'faults' in read ? (
            <Typography color="text.secondary">The drawing follows when the table is right.</Typography>
          ) : (
            <>
              <Diagram circuit={read.now} clips={on} title={circuit.name} />
              <Box
                component="fieldset"
                sx={{
                  border: 0,
                  p: 0,
                  m: 0,
                  mt: 1,
                  displayPrint: 'none',
                  display: 'flex',
                  gap: 0.5,
                  flexWrap: 'wrap',
                }}
              >
                <Typography component="legend" variant="body2">
                  A clip reaches
                </Typography>
                {nodes.map((n) => {
                  const isHidden = circuit.hidden.includes(n);
                  return (
                    <Chip
                      key={n}
                      label={isHidden ? `${n}: out of reach` : n}
                      variant={isHidden ? 'outlined' : 'filled'}
                      aria-pressed={!isHidden}
                      onClick={() =>
                        inHand.change(
                          {
                            hidden: isHidden
                              ? circuit.hidden.filter((h) => h !== n)
                              : [...circuit.hidden.filter((h) => nodes.includes(h)), n],
                          },
                          `hidden ${n}`,
                        )
                      }
                      sx={{ minHeight: 40, fontSize: '0.95rem' }}
                    />
                  );
                })}
              </Box>
            </>
          )}
        </Box>
      </Box>
      {!('faults' in read) && (
        <Measured
          key={drawn.id}
          inHand={inHand}
          planned={read}
          meters={data.meters}
          clips={on}
          onClips={setClips}
        />
      )}
    </Box>
  );
}

/** Whose the circuit in hand is, and whether it was changed since. */
function OnFile({ saved, isSaved }: { saved: OwnCircuitView | null; isSaved: boolean }) {
  return (
    <Typography variant="body2" color="text.secondary" sx={{ mb: 1, displayPrint: 'none' }}>
      {saved
        ? `${isSaved ? 'As' : 'Changed since'} revision ${saved.revision}, saved by ${saved.by}.`
        : 'Not saved yet: kept on this device as it is typed.'}
    </Typography>
  );
}
