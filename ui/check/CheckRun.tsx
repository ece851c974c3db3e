'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import type { CheckView } from '@/contract/checkViews';
import { referenceRests } from '@/core/check/referenceRest';
import { atRest } from '@/core/check/settling';
import { procedureOf } from '@/core/procedure/procedures';
import { formatValue } from '@/core/quantity/format';
import { load, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';
import { StationHead } from '../station/StationHead';
import { UnknownActions } from '../station/UnknownActions';
import { Adjustment } from './Adjustment';
import { besideOf } from './companions';
import { BudgetTable } from './BudgetTable';
import { useOutbox } from '../outbox/outbox';
import { CareNote } from './CareNote';
import { CaptureForm } from './CaptureForm';
import { judgedHere } from './judgedHere';
import { ReadingTable } from './ReadingTable';
import { Samples } from './Samples';
import { referenceRestOf } from './referenceRestOf';
import { settlingOf } from './settlingOf';
import { ReferenceIndicator, SettlingIndicator } from './SettlingIndicator';
import { Steps } from './Steps';
import { useLiveReadings } from './useLiveReadings';
import { VerdictPanel } from './VerdictPanel';
import { standing } from './verdictWords';

/** A check as it runs: settle, capture together, repeat, judge, adjust, verify, close. */
export function CheckRun({ initial }: { initial: CheckView }) {
  const path = `/api/v1/stations/${initial.stationId}/checks/${initial.id}`;
  const client = useQueryClient();
  const {
    data: known,
    error,
    refetch,
  } = useQuery({ queryKey: [path], queryFn: () => load<CheckView>(path), initialData: initial });
  const { items, inForms } = useOutbox();
  // What a form still waits for is shown there.
  const c = useMemo(
    () =>
      judgedHere(
        known,
        items.filter((i) => !inForms.has(i.key)),
      ),
    [known, items, inForms],
  );
  const { zone } = useStationBasics();
  const mayMeasure = useMay('measure');
  const running = c.outcome === null && mayMeasure;
  const { watches, restart } = useLiveReadings(c.stationId, [c.id], running);
  const watch = watches[0]!;
  const { live, watched, error: liveError } = watch;
  const changed = () => {
    void refetch();
    void client.invalidateQueries({ queryKey: ['clock-strip'] });
  };
  // When the sensor was placed, or the visit itself changed something round it; until then it hangs as it hung.
  const [placedAt, setPlacedAt] = useState<number | null>(null);
  const settling = useMemo(() => settlingOf(c, watched, placedAt), [c, watched, placedAt]);
  const [referenceStands, setReferenceStands] = useState(false);
  const reference = referenceRestOf(c, watch, placedAt, referenceStands);
  const found = c.readings.filter((r) => r.phase === 'as-found');
  const [cleanedNow, setCleanedNow] = useState(false);
  const isCleaned = cleanedNow || found.some((r) => r.afterCleaning);
  // Once it was cleaned, what was read before shows fouling alone.
  const taken = found.filter((r) => !r.excludedReason && r.afterCleaning === isCleaned).length;
  const wanted = c.plan.repeats * Math.max(1, c.plan.points.length);
  const adjusted = c.adjustments.some((a) => !a.undone && !a.undoes);
  const verified = c.readings.filter(
    (r) => r.phase === 'verification' && r.round === standing(c) && !r.excludedReason,
  ).length;
  return (
    <>
      <StationHead stationId={c.stationId} code={c.stationCode} name={c.channelName} />
      <Typography sx={{ mb: 1 }}>
        Zone <b>{c.plan.zoneName}</b>, channel {c.channelNumber}, against{' '}
        {c.instrument
          ? `${c.instrument.name} ${c.instrument.serial}`
          : c.plan.points.map((p) => p.name).join(', ')}
        {c.plan.material && `, on ${c.plan.material}`}: {c.accuracyRatioText}.
        {c.plan.outOfDateReason && (
          <>
            {' '}
            <b>Used all the same:</b> {c.plan.outOfDateReason}.
          </>
        )}{' '}
        Begun {timeText(c.openedAt, zone)}.
      </Typography>
      {c.outcome && (
        <Alert
          severity={c.outcome === 'agree' || c.outcome === 'adjusted' ? 'success' : 'warning'}
          variant="outlined"
          sx={{ mb: 2, color: 'text.primary' }}
        >
          Closed {timeText(c.closedAt!, zone)}: <b>{c.outcome}</b>
        </Alert>
      )}
      {c !== known && (
        <Box role="status" sx={{ display: 'flex', gap: 1, alignItems: 'center', mb: 2 }}>
          <StateMark state="missing" />
          <Typography>
            With what waits on this device, judged here. The server judges it again once it has that.
          </Typography>
        </Box>
      )}
      <ProblemNote error={error} />
      {c.pendingAction && (
        <UnknownActions stationId={c.stationId} actions={[c.pendingAction]} onSettled={changed} />
      )}
      {running && c.instrument && (
        <CareNote instrument={c.instrument} quantity={c.plan.quantity} settles={c.plan.settleWindow} />
      )}
      {running && <Steps procedure={c.plan.procedure} quantity={c.plan.quantity} />}
      {running && (
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' },
            gap: 3,
            mb: 3,
            p: 2,
            border: 1,
            borderColor: 'divider',
            bgcolor: 'background.paper',
          }}
        >
          <Box>
            <Typography color="text.secondary">Sensor now</Typography>
            <Typography
              component="p"
              sx={{ fontSize: '2.6rem', fontWeight: 700, lineHeight: 1.1 }}
              aria-label="Sensor now"
            >
              {formatValue(liveError ? null : live?.value, c.plan.decimals)} {c.unit}
            </Typography>
            {besideOf(c.plan)
              .filter(({ planned }) => planned.channel)
              .map(({ key, spec }) => (
                <Typography key={key}>
                  at {formatValue(liveError ? null : live?.companions[key], spec.decimals)} {spec.unit}
                </Typography>
              ))}
            <ProblemNote error={liveError} />
          </Box>
          <Box>
            {liveError ? (
              <Typography>Nothing comes to be watched here.</Typography>
            ) : (
              <>
                <SettlingIndicator
                  settling={settling}
                  watched={watched}
                  unit={c.unit}
                  decimals={c.plan.decimals}
                />
                <ReferenceIndicator
                  rest={reference}
                  unit={c.unit}
                  decimals={c.plan.decimals}
                  onSaid={() => setReferenceStands(true)}
                />
                <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
                  <Button sx={gloved} onClick={restart}>
                    Watch anew
                  </Button>
                  <Button
                    sx={gloved}
                    onClick={() => {
                      setPlacedAt(live?.t ?? null);
                      setReferenceStands(false);
                      restart();
                    }}
                  >
                    Placed just now, or door, light, fan, people changed
                  </Button>
                </Box>
                {!adjusted && found.length > 0 && c.plan.points.length === 0 && (
                  <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mt: 1 }}>
                    {isCleaned ? (
                      'Cleaned: what comes now is judged; what was read before shows the fouling.'
                    ) : (
                      <Button
                        sx={gloved}
                        onClick={() => {
                          setCleanedNow(true);
                          setPlacedAt(live?.t ?? null);
                          restart();
                        }}
                      >
                        Cleaned just now: read again
                      </Button>
                    )}
                  </Box>
                )}
                {placedAt !== null && (
                  <Typography variant="body2" color="text.secondary">
                    Settles from there on
                    {c.plan.sensorResponse > 0 &&
                      `: at least ${c.plan.sensorDeadTime > 0 ? `the ${c.plan.sensorDeadTime} s until it answers and ` : ''}3 time constants of ${c.plan.sensorResponse} s, or until its response was seen`}
                    .
                  </Typography>
                )}
              </>
            )}
          </Box>
          <Box sx={{ gridColumn: '1 / -1' }}>
            <CaptureForm
              check={c}
              watch={watch}
              placedAt={placedAt}
              referenceStands={referenceStands}
              isCleaned={isCleaned && !adjusted}
              reached={!liveError}
              wanted={adjusted ? verifications - verified : wanted - taken}
              isStill={atRest(settling) && referenceRests(reference)}
              onCaptured={changed}
              label={
                adjusted
                  ? 'Capture a verification'
                  : taken < wanted
                    ? `Capture ${taken + 1} of ${wanted}`
                    : 'Capture one more'
              }
            />
          </Box>
        </Box>
      )}
      {procedureOf(c.plan.procedure).isLate && <Samples check={c} onChanged={changed} />}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) minmax(0, 1fr)' },
          gap: 3,
          mb: 3,
        }}
      >
        <VerdictPanel
          check={c}
          waits={c !== known}
          onChanged={() => {
            restart();
            changed();
          }}
        />
        <BudgetTable check={c} />
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gap: 2 }}>
        <Typography variant="h2">As found</Typography>
        {found.length === 0 ? (
          <Typography>Nothing captured yet. {firstText(c)}</Typography>
        ) : (
          <ReadingTable check={c} readings={found} onChanged={changed} />
        )}
        {c.adjustments.map((a) => (
          <Adjustment key={a.id} check={c} adjustment={a} running={running} onChanged={changed} />
        ))}
        {running && !adjusted && <Abandon check={c} onChanged={changed} />}
      </Box>
    </>
  );
}

/** As many after an adjustment as tell half of it from the whole: see `judgeTaken`. */
const verifications = 3;

/** What to do before the first reading, in one sentence. */
function firstText({ plan }: CheckView): string {
  const { against, isLate, isTyped } = procedureOf(plan.procedure);
  if (isTyped) return 'Do it as its steps say, then type what the logger counted.';
  if (isLate)
    return 'Draw the sample while the goods flow, and capture at its end: tests and masses come later.';
  return against === 'instrument'
    ? 'Bring sensor and reference together, stand back, wait until it says settled.'
    : `First: ${plan.points[0]!.name}. Wait until it says settled.`;
}

function Abandon({ check, onChanged }: { check: CheckView; onChanged: () => void }) {
  const [reason, setReason] = useState('');
  const abandon = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${check.stationId}/checks/${check.id}/close`, {
        abandon: true,
        reason,
        occurredAt: nowText(),
      }),
    onSuccess: onChanged,
  });
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <TextField
          size="medium"
          label="Why it is abandoned"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          sx={{ flexGrow: 1, maxWidth: 420 }}
        />
        <Button sx={gloved} disabled={!reason.trim() || abandon.isPending} onClick={() => abandon.mutate()}>
          Abandon the check
        </Button>
      </Box>
      <ProblemNote error={abandon.error} />
    </Box>
  );
}
