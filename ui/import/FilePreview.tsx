'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import type { ImportPlan } from '@/core/import/plan';
import { formatValue } from '@/core/quantity/format';
import { inSentence, quantityOf } from '@/core/quantity/quantity';
import { StateMark } from '../shared/stateMark';
import { timeText } from '../shared/time';
import { headRows, unitsToSay, type Draft } from './draft';
import { OddRows } from './OddRows';
import type { Scan } from './useScan';

/** The first rows as they stand in the file, and what would become of all of them. */
export function FilePreview({
  draft,
  plan,
  scan,
  zone,
  onChange,
}: {
  draft: Draft;
  plan: ImportPlan | null;
  scan: Scan;
  zone: string;
  onChange: (draft: Draft) => void;
}) {
  const { headerRows, timeColumns } = draft.dialect;
  const rows = headRows(draft).slice(0, headerRows + 5);
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) minmax(0, 1fr)' },
        gap: 3,
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        <Typography variant="h3" sx={{ mb: 0.5 }}>
          The first rows
        </Typography>
        <Box
          sx={{ overflowX: 'auto', border: 1, borderColor: 'divider', bgcolor: 'background.paper' }}
          tabIndex={0}
          role="region"
          aria-label="The first rows of the file"
        >
          <Box
            component="table"
            sx={{
              borderCollapse: 'collapse',
              fontFamily: '"IBM Plex Mono", monospace',
              fontSize: '0.82rem',
              '& td': { px: 1, py: 0.25, whiteSpace: 'nowrap', borderRight: 1, borderColor: 'divider' },
            }}
          >
            <tbody>
              {rows.map((r, line) => (
                <Box
                  component="tr"
                  key={line}
                  sx={{ color: line < headerRows ? 'text.secondary' : undefined }}
                >
                  {r.map((cell, i) => (
                    <Box
                      component="td"
                      key={i}
                      sx={{
                        bgcolor: timeColumns.includes(i) && line >= headerRows ? 'ground.skyWash' : undefined,
                      }}
                    >
                      {cell.slice(0, 40)}
                    </Box>
                  ))}
                </Box>
              ))}
            </tbody>
          </Box>
        </Box>
      </Box>
      <Box sx={{ minWidth: 0 }} role="status" aria-label="What would become of it">
        <Typography variant="h3" sx={{ mb: 0.5 }}>
          What would become of it
        </Typography>
        {scan.state === 'idle' && (
          <Typography>
            {!draft.stampOrder
              ? 'Say how the times are written.'
              : unitsToSay(draft).length > 0
                ? `Say which unit ${unitsToSay(draft)
                    .map((c) => `${c.name} (${c.unit})`)
                    .join(', ')} is in.`
                : 'Give at least one column a channel.'}
          </Typography>
        )}
        {scan.state === 'scanning' && (
          <>
            <Typography>Reading the file here, nothing is sent yet …</Typography>
            <LinearProgress variant="determinate" value={scan.share * 100} aria-label="Read so far" />
          </>
        )}
        {scan.state === 'failed' && (
          <Typography role="alert">
            <b>{scan.says}</b>
          </Typography>
        )}
        {scan.state === 'done' && plan && <Outcome plan={plan} scan={scan} zone={zone} />}
        {(draft.oldStamps || (scan.state === 'done' && scan.result.old > 0)) && (
          <FormControlLabel
            control={
              <Checkbox
                checked={draft.oldStamps}
                onChange={(e) => onChange({ ...draft, oldStamps: e.target.checked, remembered: false })}
              />
            }
            label="This record begins before 1950"
          />
        )}
      </Box>
    </Box>
  );
}

function Outcome({
  plan,
  scan,
  zone,
}: {
  plan: ImportPlan;
  scan: Extract<Scan, { state: 'done' }>;
  zone: string;
}) {
  const { count, odd, from, until, targets, twoStations, repeated } = scan.result;
  return (
    <Box sx={{ display: 'grid', gap: 0.75 }}>
      <Typography>
        <b>{count.values}</b> values from {count.rows} rows, <b>{count.missing}</b> missing,{' '}
        <b>{count.refused}</b> refused
        {from !== null && until !== null && (
          <>
            , from {timeText(from, zone)} to {timeText(until, zone)}
          </>
        )}
        .
      </Typography>
      {plan.columns.map((c, i) => {
        const t = targets[i];
        const q = quantityOf(c.channel.quantity);
        if (!t || t.n === 0) return null;
        return (
          <Box key={c.column} sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <StateMark state={t.unlike ? 'displaced' : 'sound'} />
            <span>
              column {c.column + 1}, {inSentence(q.code)}: {formatValue(t.min, q.decimals)} to{' '}
              {formatValue(t.max, q.decimals)} {q.unit}
              {t.unlike && (
                <b>, unlike everything stored for this channel: is it the right station and column?</b>
              )}
            </span>
          </Box>
        );
      })}
      {twoStations && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <StateMark state="displaced" />
          <b>
            {repeated} rows repeat the stamp of another: does the file hold two stations? Of two values at one
            stamp the first is taken.
          </b>
        </Box>
      )}
      {odd.length > 0 && (
        <OddRows
          rows={odd}
          caption={
            count.refused > odd.length ? `The first ${odd.length} of ${count.refused} odd rows` : 'Odd rows'
          }
        />
      )}
    </Box>
  );
}
