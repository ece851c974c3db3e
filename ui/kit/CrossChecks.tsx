'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { InstrumentPage } from '@/contract/foundOff';
import type { CrossCheckRequest, CrossCheckView } from '@/contract/instruments';
import { crossCheck } from '@/core/kit/crossCheck';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { proceduresFor } from '@/core/procedure/procedures';
import { inSentence, quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { newId, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { NumberField } from '../shared/NumberField';
import PageLink from '../shared/PageLink';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { Sum } from '../shared/Sum';
import { gloved, openForm } from '../shared/theme';

/** An instrument beside another of the kit: may both be right? */
export function CrossChecks({ page, onKept }: { page: InstrumentPage; onKept: () => void }) {
  const [adding, setAdding] = useState(false);
  const mayKeep = useMay('kit');
  const { crossChecks, others } = page;
  return (
    <Box component="section" aria-label="Compared with others" sx={{ mb: 3, display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography variant="h2" sx={{ flexGrow: 1 }}>
          Compared with others of the kit
        </Typography>
        {mayKeep && others.length > 0 && (
          <Button sx={gloved} onClick={() => setAdding((a) => !a)}>
            {adding ? 'Close the form' : 'Compare'}
          </Button>
        )}
      </Box>
      {adding && (
        <CompareForm
          page={page}
          onKept={() => {
            setAdding(false);
            onKept();
          }}
        />
      )}
      {crossChecks.length === 0 && (
        <Typography>
          {others.length === 0
            ? 'Nothing else in the kit measures the same.'
            : 'Not yet. Side by side in a bath or a still room, a few minutes once a month, shows what a certificate cannot: that one of them changed last week.'}
        </Typography>
      )}
      {crossChecks.map((c) => (
        <Compared key={c.id} of={c} />
      ))}
    </Box>
  );
}

/** What says which of two that disagree is off. */
function whatTells(quantity: QuantityCode): string {
  if (quantityOf(quantity).unit === '°C') return 'a third or melting ice';
  return proceduresFor(quantity).includes('oven-drying') ? 'a third or the oven' : 'a third or a standard';
}

function Compared({ of: c }: { of: CrossCheckView }) {
  const { unit, decimals: d } = quantityOf(c.quantity);
  const all = c.pairs.map((p) => formatDifference(p.one - p.other, d)).join(' ');
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
        <StateMark state={c.agrees ? 'sound' : 'displaced'} />
        <Typography>
          {c.at.slice(0, 10)}, {inSentence(c.quantity)} in {c.place}, beside{' '}
          <Link component={PageLink} href={`/kit/instruments/${c.other.id}`}>
            {c.other.name} {c.other.serial}
          </Link>{' '}
          ({c.initials}): <b>{c.agrees ? 'both may be right' : 'one of the two is off'}</b>
        </Typography>
      </Box>
      <Sum>
        ({all}) ÷ {c.pairs.length} = {formatDifference(c.difference, d)} {unit}; |…| {c.agrees ? '≤' : '>'} ±
        {formatValue(c.limit, d)} {unit}
      </Sum>
      {c.isPutRight && (
        <Typography variant="body2">Put right by what their certificates said that day.</Typography>
      )}
      {!c.agrees && (
        <Typography variant="body2">
          Which one, {whatTells(c.quantity)} says. Then write it down below, under Found off.
        </Typography>
      )}
    </Box>
  );
}

interface TypedPair {
  readonly one: number | null;
  readonly other: number | null;
}

function CompareForm({ page, onKept }: { page: InstrumentPage; onKept: () => void }) {
  const { instrument, others } = page;
  const [otherId, setOtherId] = useState(others[0]!.id);
  const other = others.find((o) => o.id === otherId) ?? others[0]!;
  const shared = instrument.quantities.filter((q) => other.quantities.some((o) => o.quantity === q.quantity));
  const [chosen, setChosen] = useState<QuantityCode>(shared[0]!.quantity);
  const own = shared.find((q) => q.quantity === chosen) ?? shared[0]!;
  const its = other.quantities.find((q) => q.quantity === own.quantity)!;
  const [pairs, setPairs] = useState<readonly TypedPair[]>(Array(3).fill({ one: null, other: null }));
  const [place, setPlace] = useState('');
  const { unit, decimals } = quantityOf(own.quantity);
  const whole = pairs.flatMap((p) =>
    p.one === null || p.other === null ? [] : [{ one: p.one, other: p.other }],
  );
  const keep = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/kit/instruments/${instrument.id}/cross-checks`, {
        crossCheckId: newId(),
        otherId: other.id,
        quantity: own.quantity,
        pairs: whole,
        place,
        occurredAt: nowText(),
      } satisfies CrossCheckRequest),
    onSuccess: onKept,
  });
  const put = (i: number, change: Partial<TypedPair>) =>
    setPairs((all) => all.map((p, n) => (n === i ? { ...p, ...change } : p)));
  const so =
    whole.length > 0
      ? crossCheck(
          own.quantity,
          whole.map((p) => [p.one, p.other] as const),
          own,
          its,
        )
      : null;
  return (
    <Box
      component="form"
      noValidate
      aria-label="Compare"
      sx={openForm}
      onSubmit={(e) => {
        e.preventDefault();
        keep.mutate();
      }}
    >
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <TextField
          select
          size="medium"
          label="Beside"
          value={other.id}
          onChange={(e) => setOtherId(e.target.value)}
          sx={{ minWidth: 240 }}
        >
          {others.map((o) => (
            <MenuItem key={o.id} value={o.id}>
              {o.name} {o.serial}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="medium"
          label="Quantity"
          value={own.quantity}
          onChange={(e) => setChosen(e.target.value as QuantityCode)}
          sx={{ minWidth: 200 }}
        >
          {shared.map((q) => (
            <MenuItem key={q.quantity} value={q.quantity}>
              {quantityOf(q.quantity).name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          size="medium"
          label="Where: bath, still room"
          value={place}
          onChange={(e) => setPlace(e.target.value)}
        />
      </Box>
      {pairs.map((p, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
          <NumberField
            large
            label={`${instrument.serial} shows, ${unit}`}
            value={p.one}
            onChange={(one) => put(i, { one })}
          />
          <NumberField
            large
            label={`${other.serial} shows, ${unit}`}
            value={p.other}
            onChange={(n) => put(i, { other: n })}
          />
        </Box>
      ))}
      {so && (
        <Box role="status" sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
          <StateMark state={so.agrees ? 'sound' : 'displaced'} />
          {formatDifference(so.budget.meanDifference, decimals + 1)} {unit} in the mean,{' '}
          {so.agrees ? 'within' : 'beyond'} ±{formatValue(so.budget.gum.U, decimals + 1)} {unit}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        <Button sx={gloved} onClick={() => setPairs((all) => [...all, { one: null, other: null }])}>
          One more
        </Button>
        <Button
          type="submit"
          variant="contained"
          sx={gloved}
          disabled={keep.isPending || whole.length === 0 || !place.trim()}
        >
          Keep this comparison
        </Button>
      </Box>
      <ProblemNote error={keep.error} />
    </Box>
  );
}
