'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { useState } from 'react';
import type { FindingOfInstrument, InstrumentPage, TouchedCheckView } from '@/contract/foundOff';
import { formatDifference } from '@/core/quantity/format';
import { quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { load, newId, send } from '../shared/api';
import { DayField } from '../shared/DateFields';
import { nowText } from '../shared/deviceClock';
import { NumberField } from '../shared/NumberField';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved, openForm } from '../shared/theme';
import { useView } from '../shared/useView';
import { Calibrations } from './Calibrations';
import { CareOf } from './CareOf';
import { CrossChecks } from './CrossChecks';
import { TouchedChecks } from './TouchedChecks';

/** One reference instrument: what it measures, what was found of it, and which checks that touches. */
export function Instrument({ initial }: { initial: InstrumentPage }) {
  const path = `/api/v1/kit/instruments/${initial.instrument.id}`;
  const { data, error, changed } = useView<InstrumentPage>(path, initial);
  const { instrument, findings } = data;
  const mayKeep = useMay('kit');
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h1" sx={{ flexGrow: 1 }}>
          {instrument.name} {instrument.serial}
        </Typography>
        <Button component={PageLink} href="/kit" sx={gloved}>
          Back to the kit
        </Button>
      </Box>
      <Typography sx={{ mb: 2 }}>
        {instrument.model}; calibrated {instrument.calibratedOn}, due {instrument.dueOn}.{' '}
        {instrument.quantities
          .map((q) => `${quantityOf(q.quantity).name} ±${q.tolerance} ${quantityOf(q.quantity).unit}`)
          .join(', ')}
        .
      </Typography>
      <ProblemNote error={error} />
      <Calibrations page={data} onKept={() => void changed()} />
      <CareOf page={data} onKept={() => void changed()} />
      <CrossChecks page={data} onKept={() => void changed()} />
      <Typography variant="h2">Found off</Typography>
      <Typography sx={{ mb: 1 }}>
        Compared with a better one, or calibrated anew, and found to show too much or too little: which checks
        does that touch, and what would they have said? Nothing is rewritten.
      </Typography>
      <Wonder page={data} mayKeep={mayKeep} onKept={() => void changed()} />
      {findings.map((f) => (
        <Finding key={f.id} path={path} of={f} mayKeep={mayKeep} onChanged={() => void changed()} />
      ))}
    </>
  );
}

/** Asks what an error would touch; kept only where somebody says why. */
function Wonder({
  page: { instrument },
  mayKeep,
  onKept,
}: {
  page: InstrumentPage;
  mayKeep: boolean;
  onKept: () => void;
}) {
  const [quantity, setQuantity] = useState<QuantityCode>(instrument.quantities[0]!.quantity);
  const [by, setBy] = useState<number | null>(null);
  const [goodUntil, setGoodUntil] = useState(instrument.calibratedOn);
  const [why, setWhy] = useState('');
  const { unit } = quantityOf(quantity);
  const keep = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/kit/instruments/${instrument.id}/findings`, {
        findingId: newId(),
        quantity,
        by: by!,
        goodUntil,
        why,
        occurredAt: nowText(),
      }),
    onSuccess: () => {
      setBy(null);
      setWhy('');
      onKept();
    },
  });
  return (
    <Box
      component="form"
      noValidate
      aria-label="Found off"
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
          label="Quantity"
          value={quantity}
          onChange={(e) => setQuantity(e.target.value as QuantityCode)}
          sx={{ minWidth: 200 }}
        >
          {instrument.quantities.map((q) => (
            <MenuItem key={q.quantity} value={q.quantity}>
              {quantityOf(q.quantity).name}
            </MenuItem>
          ))}
        </TextField>
        <NumberField
          large
          label={`It shows too much by, ${unit}`}
          value={by}
          help="−0.4: it shows 0.4 too little"
          onChange={setBy}
        />
        <DayField large label="Last known good" value={goodUntil} onChange={setGoodUntil} />
      </Box>
      {by !== null && by !== 0 && goodUntil && (
        <Touched instrumentId={instrument.id} quantity={quantity} by={by} from={goodUntil} until={null} />
      )}
      {mayKeep && (
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
          <TextField
            size="medium"
            label="How one knows"
            value={why}
            onChange={(e) => setWhy(e.target.value)}
            sx={{ flexGrow: 1, maxWidth: 480 }}
          />
          <Button
            type="submit"
            variant="contained"
            sx={gloved}
            disabled={keep.isPending || by === null || by === 0 || !goodUntil || why.trim().length < 3}
          >
            Keep this finding
          </Button>
        </Box>
      )}
      <ProblemNote error={keep.error} />
    </Box>
  );
}

function Touched({
  instrumentId,
  quantity,
  by,
  from,
  until,
}: {
  instrumentId: string;
  quantity: QuantityCode;
  by: number;
  from: string;
  until: string | null;
}) {
  const asked = new URLSearchParams({ quantity, by: String(by), from, ...(until && { until }) });
  const path = `/api/v1/kit/instruments/${instrumentId}/touched?${asked.toString()}`;
  const { data, error } = useQuery({
    queryKey: [path],
    queryFn: () => load<TouchedCheckView[]>(path),
    retry: false,
  });
  return (
    <>
      <ProblemNote error={error} />
      {data ? (
        <TouchedChecks touched={data} />
      ) : (
        !error && <Typography role="status">Judging anew …</Typography>
      )}
    </>
  );
}

function Finding({
  path,
  of: f,
  mayKeep,
  onChanged,
}: {
  path: string;
  of: FindingOfInstrument;
  mayKeep: boolean;
  onChanged: () => void;
}) {
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState('');
  const { name, unit, decimals } = quantityOf(f.quantity);
  const back = useMutation({
    mutationFn: () => send('POST', `${path}/findings/${f.id}/take-back`, { findingId: newId(), why }),
    onSuccess: onChanged,
  });
  return (
    <Box
      component="section"
      aria-label={`${name} off by ${formatDifference(f.by, decimals)} ${unit}`}
      sx={{ borderTop: 1, borderColor: 'divider', py: 1.5, display: 'grid', gap: 1 }}
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <StateMark state={f.isTakenBack ? 'missing' : 'displaced'} />
        <Typography sx={f.isTakenBack ? { textDecoration: 'line-through' } : undefined}>
          <b>
            {name} {formatDifference(f.by, decimals)} {unit}
          </b>{' '}
          on {f.foundAt.slice(0, 10)}, last known good {f.goodUntil.slice(0, 10)}: {f.why} ({f.initials})
        </Typography>
        {f.isTakenBack && ' taken back'}
        <Button sx={gloved} onClick={() => setOpen((o) => !o)}>
          {open ? 'Hide its checks' : 'Which checks does it touch?'}
        </Button>
      </Box>
      {open && (
        <Touched
          instrumentId={path.split('/').at(-1)!}
          quantity={f.quantity}
          by={f.by}
          from={f.goodUntil}
          until={f.foundAt}
        />
      )}
      {open && mayKeep && !f.isTakenBack && (
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
          <TextField
            size="medium"
            label="Why it was none"
            value={why}
            onChange={(e) => setWhy(e.target.value)}
            sx={{ flexGrow: 1, maxWidth: 420 }}
          />
          <Button
            sx={gloved}
            disabled={back.isPending || why.trim().length < 3}
            onClick={() => back.mutate()}
          >
            Take the finding back
          </Button>
        </Box>
      )}
      <ProblemNote error={back.error} />
    </Box>
  );
}
