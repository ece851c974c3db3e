'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { useEffect, useState } from 'react';
import type { ConsoleView } from '@/contract/busViews';
import { serialText, type SerialSettings } from '@/core/bus/serial';
import type { HalfDuplexLine } from '@/line/halfDuplexLine';
import { serialPortLine } from '@/line/serialPortLine';
import { HoldLine } from '../line/HoldLine';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { SerialFields } from '../shared/SerialFields';
import { gloved } from '../shared/theme';
import { useView } from '../shared/useView';
import { Cautions } from '../station/Cautions';
import { StationHead } from '../station/StationHead';
import { DirectTalk } from './DirectTalk';
import { serialInterface } from './serialInterface';

const usual: SerialSettings = { baud: 19_200, dataBits: 8, parity: 'even', stopBits: 1 };

/** Talking through a serial adapter of this computer instead of a gateway, where the browser can. */
export function DirectLine({ initial }: { initial: ConsoleView }) {
  const path = `/api/v1/stations/${initial.stationId}/console`;
  const { data, error, changed } = useView<ConsoleView>(path, initial);
  const mayMeasure = useMay('measure');
  // Known in the browser only: what the server draws first must be what the browser draws first.
  const [has, setHas] = useState<boolean | null>(null);
  // eslint-disable-next-line react-hooks/set-state-in-effect
  useEffect(() => setHas(serialInterface() !== null), []);
  const [where, setWhere] = useState<string | null>(null);
  const [serial, setSerial] = useState<SerialSettings>(data.lines[0]?.serial ?? usual);
  const [line, setLine] = useState<HalfDuplexLine | null>(null);
  const open = useMutation({
    mutationFn: async () => {
      const port = await serialInterface()!.requestPort();
      return serialPortLine(port, serial);
    },
    onSuccess: setLine,
  });
  const close = () => {
    line?.close();
    setLine(null);
  };
  useEffect(() => () => line?.close(), [line]);
  const held = data.lines.find((l) => l.portId === where);
  const free = where === 'alone' || (held?.session != null && !held.session.over);
  return (
    <>
      <StationHead stationId={data.stationId} code={data.code} name={data.name} />
      <ProblemNote error={error} />
      <Cautions cautions={data.cautions} />
      <Typography variant="h2" sx={{ mt: 1, mb: 0.5 }}>
        Direct line
      </Typography>
      <Typography>
        Through a serial adapter on this computer, without the network. What is said on it stays between the
        adapter and this page; what came of it goes into the field book.
      </Typography>
      {has === false && (
        <Box role="status" sx={{ borderLeft: 4, borderColor: 'warning.main', pl: 2, my: 2 }}>
          <Typography>
            <b>This browser has no serial interface.</b> Some browsers on desktop computers have one (Web
            Serial), when the page comes over HTTPS or from the computer itself; phones have none.
          </Typography>
          <Typography>
            <Box
              component={PageLink}
              href={`/stations/${data.stationId}/connect/line`}
              sx={{ color: 'inherit' }}
            >
              Talk through the gateway
            </Box>{' '}
            instead, or type what another tool shows into the field book.
          </Typography>
        </Box>
      )}
      {has && !mayMeasure && <Typography>You may look; talking is for technicians.</Typography>}
      {has && mayMeasure && (
        <Box sx={{ display: 'grid', gap: 1.5, mt: 1.5 }}>
          <Typography id="direct-where">Where does the adapter hang?</Typography>
          <RadioGroup
            aria-labelledby="direct-where"
            value={where}
            onChange={(e) => {
              close();
              setWhere(e.target.value);
              const of = data.lines.find((l) => l.portId === e.target.value);
              if (of) setSerial(of.serial);
            }}
          >
            <FormControlLabel
              value="alone"
              control={<Radio />}
              label="One sensor alone on it, on the bench or with its leads off"
            />
            {data.lines.map((l) => (
              <FormControlLabel
                key={l.portId}
                value={l.portId}
                control={<Radio />}
                label={`On ${l.name} of this station, beside its logger`}
              />
            ))}
          </RadioGroup>
          {held && (
            <HoldLine
              stationId={data.stationId}
              portId={held.portId}
              lineName={held.name}
              session={held.session}
              onChanged={changed}
            />
          )}
          {free && !line && (
            <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
              <Box sx={{ flexGrow: 1, maxWidth: 520 }}>
                <SerialFields value={serial} onChange={setSerial} wrong="" />
              </Box>
              <Button variant="contained" sx={gloved} disabled={open.isPending} onClick={() => open.mutate()}>
                Choose the adapter
              </Button>
            </Box>
          )}
          {open.error && (
            <Typography role="alert" sx={{ color: 'error.main' }}>
              The adapter was not opened: {(open.error as Error).message} Close other programs that use it, or
              choose another.
            </Typography>
          )}
          {free && line && (
            <>
              <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
                <Typography>
                  <b>The adapter is open</b> at {serialText(serial)}.
                </Typography>
                <Button sx={gloved} onClick={close}>
                  Close it
                </Button>
              </Box>
              <DirectTalk stationId={data.stationId} line={line} serial={serial} />
            </>
          )}
        </Box>
      )}
    </>
  );
}
