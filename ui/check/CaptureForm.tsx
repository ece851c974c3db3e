'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { CaptureReading } from '@/contract/requests';
import type { CheckView } from '@/contract/checkViews';
import { procedureOf } from '@/core/procedure/procedures';
import { decimalsOf, formatValue } from '@/core/quantity/format';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import { newId, Refusal } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useKeys } from '../shared/useKeys';
import { gloved } from '../shared/theme';
import { useHeld } from '../visit/held';
import { CaptureProblem } from './CaptureProblem';
import { besideOf, enteredOf, knownHere, offLinkOf, type TypedCompanions } from './companions';
import { DisplayFields, useDisplayReading } from './DisplayReading';
import { numberOf } from '../shared/numberOf';
import { HeldValues } from './HeldValues';
import { NumberWithUnit } from './NumberWithUnit';
import type { Watch } from './useLiveReadings';
import { useSendReading } from './useSendReading';
import { useTakeAll } from './useTakeAll';

interface Props {
  check: CheckView;
  watch: Watch;
  /** When the sensor was placed or something round it changed, s; null for one that hangs as it hung. */
  placedAt: number | null;
  /** A person says that the reference's display stands still. */
  referenceStands: boolean;
  /** The sensor was cleaned before it. */
  isCleaned: boolean;
  /** Whether the logger can be asked from here just now. */
  reached: boolean;
  label: string;
  /** How many are still to be read; and whether both stand still. */
  wanted: number;
  isStill: boolean;
  onCaptured: () => void;
}

/**
 * Captures what belongs together. A linked reference fills its value in; any other is typed once. Where the logger
 * cannot be asked, what its display says is typed beside it. At known points the reference follows by itself.
 */
export function CaptureForm({
  check,
  watch,
  placedAt,
  referenceStands,
  isCleaned,
  reached,
  label,
  wanted,
  isStill,
  onCaptured,
}: Props) {
  const { live, watched, reference: referenceWatched } = watch;
  const { plan } = check;
  const procedure = procedureOf(plan.procedure);
  const [value, setValue] = useState('');
  const [unit, setUnit] = useState<Unit>(check.unit);
  const [companions, setCompanions] = useState<TypedCompanions>(() => knownHere(check));
  const [chosenPoint, setChosenPoint] = useState<string | null>(null);
  const { held, letGo } = useHeld(check.stationId);
  const [usedId, setUsedId] = useState<string | null>(null);
  const display = useDisplayReading(check);
  const [typesDisplay, setTypesDisplay] = useState(false);
  const isTyping = typesDisplay || !reached || procedure.isTyped;
  const linked = live?.instrument ?? null;
  const sendReading = useSendReading();
  const beside = besideOf(plan).filter(({ spec }) => !spec.isLate);
  const asksReference = procedure.against === 'instrument' && !procedure.isLate;
  // Until a person chooses, the first point that is still to be read.
  const point =
    plan.points.length === 0
      ? null
      : (chosenPoint ?? plan.points.find((p) => check.missing.includes(p.name))?.key ?? plan.points[0]!.key);
  const asked = useMutation({
    mutationFn: (body: CaptureReading) => sendReading(check, body),
    onSuccess: () => {
      if (usedId) letGo(usedId);
      setUsedId(null);
      setValue('');
      setChosenPoint(null);
      // What was read of the place itself holds for the next reading, too.
      setCompanions((typed) =>
        Object.fromEntries(
          Object.entries(typed).filter(([key]) => procedure.companions[key]?.of === 'place'),
        ),
      );
      display.clear();
      onCaptured();
    },
  });
  const offLink = offLinkOf(beside, live, isTyping);
  const bodyOf = (how: { useLinked: boolean; confirmed: boolean }): CaptureReading => ({
    readingId: newId(),
    ...(point !== null && { point }),
    ...(asksReference && {
      reference: how.useLinked
        ? { value: linked!.value!, unit: check.unit }
        : { value: numberOf(value), unit },
    }),
    companions: { ...(how.useLinked && offLink), ...enteredOf(companions) },
    watched: isTyping ? [] : watched.slice(-900),
    ...(how.useLinked && { referenceWatched: referenceWatched.slice(-900) }),
    ...(referenceStands && { referenceStoodStill: true }),
    ...(isCleaned && { afterCleaning: true }),
    ...(placedAt !== null && { placedAt }),
    ...(isTyping && { typed: display.typed() }),
    occurredAt: nowText(),
    ...(how.confirmed && { confirmed: true }),
  });
  const capture = (how: { useLinked: boolean; confirmed: boolean }) => asked.mutate(bodyOf(how));
  /** As many digits as the instrument's resolution carries. */
  const shown = (v: number, quantity: QuantityCode = plan.quantity) =>
    formatValue(
      v,
      decimalsOf(check.instrument?.quantities.find((q) => q.quantity === quantity)?.resolution ?? 0.01),
    );
  const mayUseLink =
    asksReference &&
    !isTyping &&
    linked?.value != null &&
    beside.every((b) => b.spec.of !== 'reference' || !b.spec.isNeeded || b.key in offLink);
  const all = useTakeAll(isStill && mayUseLink && !asked.isPending, Math.max(5, plan.sensorResponse), () =>
    asked.mutateAsync(bodyOf({ useLinked: true, confirmed: false })),
  );
  const problem = asked.error instanceof Refusal ? asked.error.problem : null;
  const isFilled = (!asksReference || value.trim() !== '') && (!isTyping || display.isThere);
  useKeys({
    c: () => {
      if (!asked.isPending && mayUseLink) capture({ useLinked: true, confirmed: false });
    },
  });
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gap: 1.5 }}>
      {plan.points.length > 1 && (
        <ToggleButtonGroup
          exclusive
          value={point}
          onChange={(_, key: string | null) => key && setChosenPoint(key)}
          aria-label="It is in"
          sx={{ flexWrap: 'wrap' }}
        >
          {plan.points.map((p) => (
            <ToggleButton key={p.key} value={p.key} sx={gloved}>
              {p.name}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      )}
      {mayUseLink && (
        <Button
          variant="contained"
          sx={{ ...gloved, minHeight: 64 }}
          disabled={asked.isPending}
          onClick={() => capture({ useLinked: true, confirmed: false })}
        >
          {label}: take {shown(linked!.value!)} {check.unit}
          {Object.entries(offLink).map(
            ([key, read]) => ` at ${shown(read.value, procedure.companions[key]!.quantity!)} ${read.unit}`,
          )}{' '}
          from the display
        </Button>
      )}
      {mayUseLink &&
        wanted > 1 &&
        plan.points.length === 0 &&
        (all.left > 0 ? (
          <Box role="status" sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
            {all.left} more by itself, each once both stand still. Stand back.
            <Button sx={gloved} onClick={all.stop}>
              Stop
            </Button>
          </Box>
        ) : (
          <Button sx={{ ...gloved, justifySelf: 'start' }} onClick={() => all.begin(wanted)}>
            Take {wanted} by itself, one after the other
          </Button>
        ))}
      <Box
        component="form"
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          capture({ useLinked: false, confirmed: false });
        }}
        sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'start' }}
      >
        {isTyping && <DisplayFields check={check} display={display} field={problem?.field} />}
        {asksReference && (
          <NumberWithUnit
            label="Reference reads"
            value={value}
            onValue={setValue}
            unit={unit}
            onUnit={setUnit}
            wrong={problem?.field === 'reference'}
          />
        )}
        {beside
          .filter((b) => !b.planned.channel || isTyping)
          .map(({ key, spec }) => {
            const typed = companions[key] ?? { value: '', unit: spec.unit };
            const set = (change: Partial<typeof typed>) =>
              setCompanions((all) => ({ ...all, [key]: { ...typed, ...change } }));
            return (
              <NumberWithUnit
                key={key}
                label={spec.isNeeded ? spec.name : `${spec.name}, if read`}
                value={typed.value}
                onValue={(v) => set({ value: v })}
                unit={typed.unit}
                onUnit={(u) => set({ unit: u })}
                wrong={problem?.field === `companions.${key}`}
              />
            );
          })}
        <Button
          type="submit"
          variant={mayUseLink ? 'outlined' : 'contained'}
          sx={gloved}
          disabled={asked.isPending || !isFilled}
        >
          {mayUseLink ? 'Capture typed' : label}
        </Button>
      </Box>
      {asksReference && (
        <HeldValues
          held={held}
          unit={check.unit}
          onUse={(h) => {
            setValue(String(h.value));
            setUnit(h.unit);
            setUsedId(h.id);
          }}
        />
      )}
      {!procedure.isTyped &&
        (reached ? (
          <FormControlLabel
            control={<Checkbox checked={typesDisplay} onChange={(e) => setTypesDisplay(e.target.checked)} />}
            label="Type what the logger’s display says"
          />
        ) : (
          <Typography>
            The logger cannot be asked from here just now. Type what its display says: the reading is kept on
            this device and sent when there is a signal.
          </Typography>
        ))}
      {asked.data?.kept && <Typography role="status">Kept on this device until it can be sent.</Typography>}
      <CaptureProblem
        error={asked.error}
        onConfirm={() => capture({ useLinked: !value.trim(), confirmed: true })}
        onMeant={(field, meant) => {
          const key = field.replace(/^companions\./, '');
          if (key in procedure.companions)
            setCompanions((all) => ({ ...all, [key]: { value: String(meant.value), unit: meant.unit } }));
          else {
            setValue(String(meant.value));
            setUnit(meant.unit);
          }
          asked.reset();
        }}
      />
    </Box>
  );
}
