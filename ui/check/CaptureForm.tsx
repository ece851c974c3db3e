'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { fieldWriteAddress, fieldWrites } from '@/contract/fieldWrites';
import type { CaptureReading } from '@/contract/requests';
import type { CheckView, LiveView } from '@/contract/views';
import type { TimedValue } from '@/core/check/timedValue';
import { decimalsOf, formatValue } from '@/core/quantity/format';
import type { QuantityCode } from '@/core/quantity/quantity';
import { convertible, type Unit } from '@/core/quantity/unit';
import { useDoFieldWrite } from '../outbox/useFieldWrite';
import { newId, Refusal, send } from '../shared/api';
import { Age } from '../shared/Age';
import { nowText } from '../shared/deviceClock';
import { ProblemNote } from '../shared/ProblemNote';
import { useKeys } from '../shared/useKeys';
import { gloved } from '../shared/theme';
import { useStationBasics } from '../station/StationBasics';
import { useHeld } from '../visit/held';
import { DisplayFields, numberOf, useDisplayReading } from './DisplayReading';
import { NumberWithUnit } from './NumberWithUnit';

interface Props {
  check: CheckView;
  live: LiveView | null;
  watched: readonly TimedValue[];
  /** When the sensor was placed or something round it changed, s; null for one that hangs as it hung. */
  placedAt: number | null;
  /** Whether the logger can be asked from here just now. */
  reached: boolean;
  label: string;
  onCaptured: () => void;
}

/**
 * Captures sensor and reference together. A linked reference fills its value in; any other is typed once. Where
 * the logger cannot be asked, what its display says is typed beside it.
 */
export function CaptureForm({ check, live, watched, placedAt, reached, label, onCaptured }: Props) {
  const [value, setValue] = useState('');
  const [unit, setUnit] = useState<Unit>(check.unit);
  const [temperature, setTemperature] = useState('');
  const [temperatureUnit, setTemperatureUnit] = useState<Unit>('°C');
  const { zone } = useStationBasics();
  const { held, letGo } = useHeld(check.stationId);
  const [usedId, setUsedId] = useState<string | null>(null);
  const display = useDisplayReading(check);
  const [typesDisplay, setTypesDisplay] = useState(false);
  const typing = typesDisplay || !reached;
  const linked = live?.instrument ?? null;
  const doFieldWrite = useDoFieldWrite();
  const asked = useMutation({
    mutationFn: async (body: CaptureReading): Promise<{ kept: boolean }> => {
      const params = { checkId: check.id };
      const { stationId } = check;
      if (body.typed) {
        const where = `${check.stationCode} ${check.channelName}`;
        return doFieldWrite({ kind: 'checkReading', stationId, params, where, zone, body });
      }
      // The logger says what the sensor reads at this moment: such a reading cannot wait.
      await send('POST', fieldWriteAddress(fieldWrites.checkReading, { stationId, ...params }), body);
      return { kept: false };
    },
    onSuccess: () => {
      if (usedId) letGo(usedId);
      setUsedId(null);
      setValue('');
      setTemperature('');
      display.clear();
      onCaptured();
    },
  });
  const capture = (how: { useLinked: boolean; confirmed: boolean }) => {
    const reference = how.useLinked
      ? { value: linked!.value!, unit: check.unit }
      : { value: numberOf(value), unit };
    const referenceTemperature = how.useLinked
      ? { value: linked!.temperature ?? Number.NaN, unit: '°C' as const }
      : { value: numberOf(temperature), unit: temperatureUnit };
    asked.mutate({
      readingId: newId(),
      reference,
      ...(check.needsTemperature && { referenceTemperature }),
      watched: typing ? [] : watched.slice(-900),
      ...(placedAt !== null && { placedAt }),
      ...(typing && { typed: display.typed() }),
      occurredAt: nowText(),
      ...(how.confirmed && { confirmed: true }),
    });
  };
  /** As many digits as the instrument's resolution carries. */
  const shown = (quantity: QuantityCode, v: number) =>
    formatValue(
      v,
      decimalsOf(check.instrument.quantities.find((q) => q.quantity === quantity)?.resolution ?? 0.01),
    );
  const mayUseLink =
    !typing && linked?.value != null && (!check.needsTemperature || linked.temperature != null);
  const problem = asked.error instanceof Refusal ? asked.error.problem : null;
  const confirmable = Boolean((problem?.extra as { confirm?: boolean } | undefined)?.confirm);
  const meant = (problem?.extra as { meant?: { value: number; unit: Unit } | null } | undefined)?.meant;
  useKeys({
    c: () => {
      if (!asked.isPending && mayUseLink) capture({ useLinked: true, confirmed: false });
    },
  });
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      {mayUseLink && (
        <Button
          variant="contained"
          sx={{ ...gloved, minHeight: 64 }}
          disabled={asked.isPending}
          onClick={() => capture({ useLinked: true, confirmed: false })}
        >
          {label}: take {shown(check.quantity, linked!.value!)} {check.unit}
          {check.needsTemperature ? ` at ${shown('airTemperature', linked!.temperature!)} °C` : ''} from the
          display
        </Button>
      )}
      <Box
        component="form"
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          capture({ useLinked: false, confirmed: false });
        }}
        sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'start' }}
      >
        {typing && <DisplayFields check={check} display={display} field={problem?.field} />}
        <NumberWithUnit
          label="Reference reads"
          value={value}
          onValue={setValue}
          unit={unit}
          onUnit={setUnit}
          wrong={problem?.field === 'reference'}
        />
        {check.needsTemperature && (
          <NumberWithUnit
            label="at temperature"
            value={temperature}
            onValue={setTemperature}
            unit={temperatureUnit}
            onUnit={setTemperatureUnit}
            wrong={problem?.field === 'referenceTemperature'}
          />
        )}
        <Button
          type="submit"
          variant={mayUseLink ? 'outlined' : 'contained'}
          sx={gloved}
          disabled={asked.isPending || !value.trim() || (typing && !display.isThere)}
        >
          {mayUseLink ? 'Capture typed' : label}
        </Button>
      </Box>
      {held
        .filter((h) => convertible(h.unit, check.unit))
        .map((h) => (
          <Button
            key={h.id}
            sx={{ ...gloved, justifySelf: 'start' }}
            onClick={() => {
              setValue(String(h.value));
              setUnit(h.unit);
              setUsedId(h.id);
            }}
          >
            Use {h.value} {h.unit}
            {h.what && ` (${h.what})`}, held&nbsp;
            <Age at={h.at} />
          </Button>
        ))}
      {reached ? (
        <FormControlLabel
          control={<Checkbox checked={typesDisplay} onChange={(e) => setTypesDisplay(e.target.checked)} />}
          label="Type what the logger’s display says"
        />
      ) : (
        <Typography>
          The logger cannot be asked from here just now. Type what its display says: the reading is kept on
          this device and sent when there is a signal.
        </Typography>
      )}
      {asked.data?.kept && <Typography role="status">Kept on this device until it can be sent.</Typography>}
      <ProblemNote error={asked.error}>
        {confirmable && (
          <Button
            size="small"
            sx={{ mt: 1, mr: 1 }}
            onClick={() => capture({ useLinked: !value.trim(), confirmed: true })}
          >
            The display really shows this
          </Button>
        )}
        {meant && (
          <Button
            size="small"
            sx={{ mt: 1 }}
            onClick={() => {
              if (problem?.field === 'referenceTemperature') {
                setTemperature(String(meant.value));
                setTemperatureUnit(meant.unit);
              } else {
                setValue(String(meant.value));
                setUnit(meant.unit);
              }
              asked.reset();
            }}
          >
            Use {meant.value} {meant.unit}
          </Button>
        )}
      </ProblemNote>
    </Box>
  );
}
