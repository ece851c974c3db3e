'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import type { ConsoleView } from '@/contract/busViews';
import { serialText } from '@/core/bus/serial';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useView } from '../shared/useView';
import { Cautions } from '../station/Cautions';
import { StationHead } from '../station/StationHead';
import { UnknownActions } from '../station/UnknownActions';
import { BeginSearch } from './BeginSearch';
import { Chain } from './Chain';
import { HoldLine } from './HoldLine';
import { Scan } from './Scan';
import { Sdi12 } from './Sdi12';
import { NewPart } from './NewPart';
import { SetSerial } from './SetSerial';
import { ChangeId, ReadRegisters, WriteRegister } from './Talk';

/** Talking on the serial lines of a station: who is there, what do they hold, which ID have they? */
export function Console({ initial }: { initial: ConsoleView }) {
  const path = `/api/v1/stations/${initial.stationId}/console`;
  const { data, error, changed } = useView<ConsoleView>(path, initial);
  return (
    <>
      <StationHead stationId={data.stationId} code={data.code} name={data.name}>
        <Button component={PageLink} href={`/stations/${data.stationId}/connect/direct`} sx={gloved}>
          Direct line
        </Button>
      </StationHead>
      <ProblemNote error={error} />
      <UnknownActions
        stationId={data.stationId}
        actions={data.unknownActions}
        onSettled={() => void changed()}
      />
      <Cautions cautions={data.cautions} />
      {data.lines.length + data.dataLines.length + data.chains.length === 0 && (
        <Typography>
          This station has no serial line with a gateway, no data line and no chain: there is nobody to talk
          to here.
        </Typography>
      )}
      {data.lines.map((line) => (
        <Line key={line.portId} stationId={data.stationId} line={line} onChanged={changed} />
      ))}
      {data.chains.map((chain) => (
        <Chain key={chain.port} stationId={data.stationId} chain={chain} onChanged={changed} />
      ))}
      {data.dataLines.map((line) => (
        <Sdi12 key={line.terminal} stationId={data.stationId} line={line} onChanged={changed} />
      ))}
    </>
  );
}

function Line({
  stationId,
  line,
  onChanged,
}: {
  stationId: string;
  line: ConsoleView['lines'][number];
  onChanged: () => Promise<void>;
}) {
  const mayMeasure = useMay('measure');
  const base = `/api/v1/stations/${stationId}/line-sessions/${line.session?.id}`;
  const held = line.session !== null && !line.session.over;
  return (
    <Box component="section" aria-label={line.name} sx={{ mt: 2 }}>
      <Typography variant="h2">{line.name}</Typography>
      <Typography variant="body2" color="text.secondary">
        {serialText(line.serial)} through the gateway at {line.gatewayAddress}
        {line.setsSerial
          ? ', whose speed and parity are set from here'
          : ', whose speed and parity are set by hand'}
      </Typography>
      <HoldLine
        stationId={stationId}
        portId={line.portId}
        lineName={line.name}
        session={line.session}
        onChanged={onChanged}
      />
      <Box component="ul" sx={{ listStyle: 'none', p: 0, my: 1 }}>
        {line.devices.map((d) => (
          <Box
            component="li"
            key={d.installationId}
            sx={{
              display: 'flex',
              gap: 1.5,
              flexWrap: 'wrap',
              alignItems: 'center',
              borderTop: 1,
              borderColor: 'divider',
              py: 0.5,
            }}
          >
            <Typography sx={{ flexGrow: 1 }}>
              <b>ID {d.busId}</b> · {d.modelName} {d.serial} · {d.zoneName}
            </Typography>
            {mayMeasure && (
              <BeginSearch stationId={stationId} installationId={d.installationId} open={d.recoveryId} />
            )}
          </Box>
        ))}
      </Box>
      {line.devices.length === 0 && <Typography>Nothing hangs here by what is on file.</Typography>}
      {mayMeasure && held && (
        <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', lg: '1fr 1fr' } }}>
          <ReadRegisters base={base} />
          <WriteRegister base={base} onChanged={onChanged} />
          <Scan base={base} />
          <ChangeId base={base} line={line} onChanged={onChanged} />
          <SetSerial base={base} line={line} />
          <NewPart base={base} devices={line.devices} onChanged={onChanged} />
        </Box>
      )}
    </Box>
  );
}
