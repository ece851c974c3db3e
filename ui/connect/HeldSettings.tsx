'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableContainer from '@mui/material/TableContainer';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRef } from 'react';
import type { StageTemplate } from '@/contract/requests';
import type { HeldSettingsView } from '@/contract/settingViews';
import { ownFieldNames } from '@/core/settings/ownSettings';
import { send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { secondText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';

/** What the logger really holds, what was there before, and settings taken along from station to station. */
export function HeldSettings({
  stationId,
  onChanged,
}: {
  stationId: string;
  onChanged: () => Promise<void>;
}) {
  const { zone } = useStationBasics();
  const mayMeasure = useMay('measure');
  const base = `/api/v1/stations/${stationId}/settings`;
  const file = useRef<HTMLInputElement>(null);
  const compare = useMutation({
    mutationFn: () => send<HeldSettingsView>('POST', `${base}/compare`, {}),
    onSuccess: onChanged,
  });
  const previous = useMutation({
    mutationFn: () => send<{ staged: number }>('POST', `${base}/stage-previous`, {}),
    onSuccess: onChanged,
  });
  const template = useMutation({
    mutationFn: async (chosen: File) => {
      const parsed = parse(await chosen.text(), chosen.name);
      return send<{ staged: number; equal: number; unused: string[] }>('POST', `${base}/stage-template`, {
        template: parsed as StageTemplate['template'],
      } satisfies StageTemplate);
    },
    onSuccess: onChanged,
  });
  const held = compare.data;
  const changed = held && [
    ...(held.own ?? [])
      .filter((f) => f.changed)
      .map((f) => ({ ...f, of: 'The logger', field: ownFieldNames[f.field], configured: true })),
    ...held.channels.flatMap((c) =>
      c.fields
        .filter((f) => f.changed)
        .map((f) => ({ ...f, of: `${c.number} · ${c.name}`, configured: c.configured })),
    ),
  ];
  return (
    <Box component="section" aria-label="The whole logger" sx={{ mt: 2, display: 'grid', gap: 1 }}>
      <Typography variant="h2">The whole logger</Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
        {mayMeasure && (
          <>
            <Button
              sx={gloved}
              variant="outlined"
              disabled={compare.isPending}
              onClick={() => compare.mutate()}
            >
              {compare.isPending ? 'Asking …' : 'Compare with what it holds'}
            </Button>
            <Button sx={gloved} disabled={previous.isPending} onClick={() => previous.mutate()}>
              Stage what was there before
            </Button>
          </>
        )}
        <Button sx={gloved} component="a" href={`${base}/template`} download={`settings-${stationId}.json`}>
          Save as a template
        </Button>
        {mayMeasure && (
          <>
            <Button sx={gloved} disabled={template.isPending} onClick={() => file.current?.click()}>
              Stage a template
            </Button>
            <input
              ref={file}
              type="file"
              accept="application/json,.json"
              hidden
              aria-label="Template of settings"
              onChange={(e) => {
                const chosen = e.target.files?.[0];
                if (chosen) template.mutate(chosen);
                e.target.value = '';
              }}
            />
          </>
        )}
      </Box>
      <Box role="status">
        {previous.data &&
          `Staged ${previous.data.staged} settings as they were before: look at them, then write.`}
        {template.data &&
          `Staged for ${template.data.staged} channels, ${template.data.equal} were so already${template.data.unused.length > 0 ? `; no place here for ${template.data.unused.join(', ')}` : ''}.`}
      </Box>
      <ProblemNote error={compare.error ?? previous.error ?? template.error} />
      {held && changed && (
        <>
          <Typography>
            Firmware <b>{held.firmware}</b>
            {held.faults.length === 0 ? ', nothing bad is known of it' : ''}; asked{' '}
            {secondText(held.at, zone)}.
          </Typography>
          {held.faults.map((f) => (
            <Typography key={f} role="alert" sx={{ color: 'error.main' }}>
              Known to be bad: {f}
            </Typography>
          ))}
          {changed.length === 0 ? (
            <Typography>
              <b>All {held.channels.length} channels are as they were written</b>, and nothing is staged.
            </Typography>
          ) : (
            <TableContainer>
              <Table size="small" aria-label="Where staged, held and written differ">
                <TableHead>
                  <TableRow>
                    {['Of', 'Field', 'Written last', 'In the logger now', 'Staged'].map((h) => (
                      <TableCell key={h}>{h}</TableCell>
                    ))}
                  </TableRow>
                </TableHead>
                <TableBody>
                  {changed.map((c) => (
                    <TableRow key={`${c.of} ${c.field}`}>
                      <TableCell>{c.of}</TableCell>
                      <TableCell>{c.field}</TableCell>
                      <TableCell>{c.written ?? '–'}</TableCell>
                      <TableCell sx={{ fontWeight: c.held === c.written ? undefined : 700 }}>
                        {c.held ?? (c.configured ? '–' : 'not configured')}
                        {c.held !== c.written && ' (differs)'}
                      </TableCell>
                      <TableCell sx={{ fontWeight: (c.staged ?? c.written) === c.written ? undefined : 700 }}>
                        {c.staged ?? '–'}
                      </TableCell>
                    </TableRow>
                  ))}
                </TableBody>
              </Table>
            </TableContainer>
          )}
        </>
      )}
    </Box>
  );
}

/** JSON of a file; anything else is refused here, by its name. */
function parse(text: string, name: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Error(`${name} is not JSON. Choose a template that was saved here.`);
  }
}
