'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { Sum } from '../shared/Sum';
import { valueText, type BenchChannel } from './texts';
import type { RankedView, Weighing } from './weigh.worker';

/** What may be the matter, most likely first, each with the sum that supports it and what practitioners do next. */
export function Ranking({ weighing, channel }: { weighing: Weighing | null; channel: BenchChannel }) {
  if (!weighing)
    return (
      <Typography color="text.secondary">What is read is weighed here, from the first reading on.</Typography>
    );
  const { ranked, byMeter, elements, gains, contradictions, telling } = weighing;
  return (
    <>
      {byMeter && (
        <Typography sx={{ mb: 1 }}>
          By the meter, were nothing wrong: <b>{valueText(byMeter.value, channel)}</b>{' '}
          <Sum>
            ± {(1.96 * byMeter.u).toPrecision(2)} {channel.unit} (95 %)
          </Sum>
        </Typography>
      )}
      {elements.length > 0 && (
        <Typography variant="body2" sx={{ mb: 1 }}>
          Element by element:{' '}
          {elements.map((e) => `${e.id} ${e.says}${e.should && ` (should be ${e.should})`}`).join('; ')}{' '}
          <Sum>95 %, least squares over all readings</Sum>
        </Typography>
      )}
      {contradictions.map((text) => (
        <Typography key={text} role="alert" sx={{ mb: 1, fontWeight: 600 }}>
          {text}
        </Typography>
      ))}
      {gains.map((text) => (
        <Typography key={text} variant="body2" sx={{ mb: 1 }}>
          {text}
        </Typography>
      ))}
      <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {ranked
          .filter((r, i) => i === 0 || r.likelihood >= 0.01)
          .map((r, i) => (
            <Ranked key={r.id} view={r} isFirst={i === 0} />
          ))}
      </Box>
      {telling ? (
        <Typography sx={{ mt: 1.5 }}>
          <b>Tells most next:</b> {telling.says} <Sum>{telling.bits.toFixed(1)} bit expected</Sum>
        </Typography>
      ) : (
        <Typography sx={{ mt: 1.5 }}>Nothing more within reach tells more.</Typography>
      )}
    </>
  );
}

const percent = (p: number): string =>
  p > 0.995 ? '> 99 %' : p < 0.01 ? '< 1 %' : `${Math.round(100 * p)} %`;

function Ranked({ view, isFirst }: { view: RankedView; isFirst: boolean }) {
  return (
    <Box component="li" sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline' }}>
        <Box sx={{ width: 64, flexShrink: 0, fontWeight: 700, textAlign: 'right' }}>
          {percent(view.likelihood)}
        </Box>
        <Box sx={{ flexGrow: 1, minWidth: 0 }}>
          <Typography sx={{ fontWeight: isFirst ? 700 : 400 }}>{view.says}</Typography>
          {view.id !== 'none' && (
            <Typography variant="body2" color="text.secondary">
              at: {view.where}
            </Typography>
          )}
          <Box
            aria-hidden
            sx={{
              height: 5,
              my: 0.5,
              width: `${Math.max(0.5, 100 * view.likelihood)}%`,
              bgcolor: view.id === 'none' ? 'secondary.main' : 'warning.main',
            }}
          />
          {view.members.length > 1 && (
            <Typography variant="body2">
              {view.id === 'none' ? 'Or too small to be seen with this meter' : 'From here the same'}:{' '}
              {view.members
                .slice(1)
                .map((m) => `${m.says.charAt(0).toLowerCase()}${m.says.slice(1)} (${percent(m.likelihood)})`)
                .join('; ')}
              .
            </Typography>
          )}
          {isFirst && <Typography variant="body2">{view.next}</Typography>}
          <Box component="details">
            <Box component="summary" sx={{ cursor: 'pointer', minHeight: 32, pt: 0.5, fontSize: '0.9rem' }}>
              The sum behind it
            </Box>
            <Box
              component="table"
              sx={{
                borderCollapse: 'collapse',
                fontSize: '0.88rem',
                '& td, & th': { pr: 1.5, textAlign: 'left', verticalAlign: 'top' },
              }}
            >
              <thead>
                <tr>
                  <th>Measured</th>
                  <th>Read</th>
                  <th>It expects</th>
                  <th>Off by</th>
                </tr>
              </thead>
              <tbody>
                {view.sums.map((s) => (
                  <tr key={s.what}>
                    <td>{s.what}</td>
                    <td>{s.read}</td>
                    <td>{s.expected}</td>
                    <td>{Math.abs(s.off).toFixed(1)} u</td>
                  </tr>
                ))}
              </tbody>
            </Box>
          </Box>
        </Box>
      </Box>
    </Box>
  );
}
