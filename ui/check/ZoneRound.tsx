'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { CheckStartView, InstrumentView } from '@/contract/checkViews';
import type { StoneState } from '@/core/trust/finding';
import { accuracyRatioText } from '@/core/check/budget';
import { inSentence, type QuantityCode } from '@/core/quantity/quantity';
import { load } from '../shared/api';
import { useMay } from '../shared/person';
import { nowText } from '../shared/deviceClock';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { StationHead } from '../station/StationHead';
import { doubtOf, instrumentFor, shortDoubt } from './inHand';
import { RecentChecks } from './RecentChecks';
import { ZoneWork } from './ZoneWork';
import { zonesOf } from './zoneReading';

type Channel = CheckStartView['channels'][number];

/** All that hangs in a zone is read together with what the person holds, then the next zone: nothing is said twice. */
export function ZoneRound({ initial, zone }: { initial: CheckStartView; zone: string | null }) {
  const path = `/api/v1/stations/${initial.stationId}/checks`;
  const { data: start, refetch } = useQuery({
    queryKey: [path],
    queryFn: () => load<CheckStartView>(path),
    initialData: initial,
  });
  const router = useRouter();
  const mayMeasure = useMay('measure');
  const zones = zonesOf(start);
  const names = [...zones.keys()];
  const at = zone !== null && zones.has(zone) ? zone : (names[0] ?? null);
  const here = at === null ? [] : zones.get(at)!;
  const [chosen, setChosen] = useState<Readonly<Partial<Record<QuantityCode, string>>>>({});
  const instruments = new Map(
    here.map((c) => [c.quantity, instrumentFor(start.instruments, c.quantity, chosen[c.quantity])!]),
  );
  const go = (next: string) =>
    router.replace(`/stations/${start.stationId}/check/zones?zone=${encodeURIComponent(next)}`, {
      scroll: false,
    });
  return (
    <>
      <StationHead stationId={start.stationId} code={start.code} name={start.name} />
      <Typography variant="h2" sx={{ mb: 1 }}>
        Zone by zone
      </Typography>
      {at === null ? (
        <Typography>
          Nothing here can be read beside an instrument of the Kit. Add the instrument under Kit, or begin a
          check by itself.
        </Typography>
      ) : (
        <>
          <ToggleButtonGroup
            exclusive
            value={at}
            onChange={(_, next: string | null) => next && go(next)}
            aria-label="Zone you stand in"
            sx={{ flexWrap: 'wrap', mb: 2 }}
          >
            {names.map((name) => (
              <ToggleButton key={name} value={name} sx={{ ...gloved, gap: 1 }}>
                <StateMark state={stateOf(zones.get(name)!)} />
                {name}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
          {!mayMeasure && <Typography>You may look at checks; a technician makes them.</Typography>}
          {mayMeasure && (
            <>
              <InHand
                channels={here.filter((c) => c.openCheckId === null)}
                instruments={instruments}
                all={start.instruments}
                onChosen={(quantity, id) => setChosen((all) => ({ ...all, [quantity]: id }))}
              />
              <ZoneWork
                key={at}
                start={start}
                zone={at}
                channels={here}
                instruments={instruments}
                next={names[names.indexOf(at) + 1] ?? null}
                onNext={go}
                onChanged={() => void refetch()}
              />
            </>
          )}
        </>
      )}
      <RecentChecks start={start} />
    </>
  );
}

/** Of today: sound where all of its channels were closed well, displaced where one is open or was not. */
function stateOf(channels: readonly Channel[]): StoneState {
  const today = nowText().slice(0, 10);
  const of = channels.map(({ last }) => (last?.openedAt.startsWith(today) ? last : null));
  if (of.every((r) => r === null)) return 'missing';
  return of.every((r) => r?.outcome === 'agree' || r?.outcome === 'adjusted') ? 'sound' : 'displaced';
}

/** What is held in the hand: a reference for each quantity still to be begun; those that something speaks against are left to a check by itself. */
function InHand({
  channels,
  instruments,
  all,
  onChosen,
}: {
  channels: readonly Channel[];
  instruments: ReadonlyMap<QuantityCode, InstrumentView>;
  all: readonly InstrumentView[];
  onChosen: (quantity: QuantityCode, id: string) => void;
}) {
  const asked = [...instruments].flatMap(([quantity, instrument]) => {
    const channel = channels.find((c) => c.quantity === quantity);
    return channel ? [{ quantity, instrument, channel }] : [];
  });
  const doubts = asked.flatMap(({ quantity, instrument }) => {
    const doubt = doubtOf(instrument, quantity);
    return doubt ? [`${instrument.name} ${instrument.serial}: ${doubt}`] : [];
  });
  if (asked.length === 0) return null;
  return (
    <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', mb: 2 }}>
      {asked.map(({ quantity, instrument, channel }) => {
        const reference = instrument.quantities.find((q) => q.quantity === quantity)!;
        const ratio = channel.tolerance / reference.tolerance;
        return (
          <TextField
            key={quantity}
            select
            size="medium"
            label={`Reference for ${inSentence(quantity)}`}
            value={instrument.id}
            onChange={(e) => onChosen(quantity, e.target.value)}
            helperText={`${ratio.toFixed(1)} : 1, ${accuracyRatioText(ratio)}`}
            sx={{ minWidth: 250 }}
          >
            {all
              .filter((i) => i.quantities.some((q) => q.quantity === quantity))
              .map((i) => (
                <MenuItem key={i.id} value={i.id} sx={{ minHeight: 48 }}>
                  {i.name} {i.serial}
                  {shortDoubt(i, quantity)}
                </MenuItem>
              ))}
          </TextField>
        );
      })}
      {[...new Set(doubts)].map((doubt) => (
        <Alert key={doubt} severity="warning" variant="outlined" sx={{ color: 'text.primary' }}>
          {doubt} Take another, or begin those checks by themselves and say why.
        </Alert>
      ))}
    </Box>
  );
}
