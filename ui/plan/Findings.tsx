'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { findingKey, type PlanFinding, type Severity } from '@/core/plan/finding';
import { Sum } from '../shared/Sum';
import type { Lit } from './Drawing';

const words: Readonly<Record<Severity, string>> = {
  stops: 'Stop',
  fails: 'Will not work',
  doubt: 'In doubt',
  hint: 'Look',
};
const colours: Readonly<Record<Severity, string>> = {
  stops: 'error.main',
  fails: 'error.main',
  doubt: 'warning.main',
  hint: 'text.secondary',
};

/** Shape carries it: a bar to stop, a triangle that will not work, a diamond in doubt, a dot to look at. */
export function SeverityMark({ severity }: { severity: Severity }) {
  const shape = {
    stops: <rect x="1" y="5.5" width="14" height="5" />,
    fails: <path d="M8 1.5 15 14.5H1z" />,
    doubt: <path d="M8 1 15 8 8 15 1 8z" fill="none" stroke="currentColor" strokeWidth="2.2" />,
    hint: <circle cx="8" cy="8" r="3.4" />,
  }[severity];
  return (
    <Box
      component="svg"
      viewBox="0 0 16 16"
      aria-hidden
      sx={{ width: 16, height: 16, flexShrink: 0, color: colours[severity], fill: 'currentColor' }}
    >
      {shape}
    </Box>
  );
}

/** What the rules found, worst first; each lights up what it is about, and may be accepted with a reason. */
export function Findings({
  findings,
  mayEdit,
  onLight,
  onShow,
  onAccept,
  onRefuse,
}: {
  findings: readonly PlanFinding[];
  mayEdit: boolean;
  onLight: (lit: Lit | null) => void;
  onShow: (device: string) => void;
  onAccept: (key: string, reason: string) => void;
  onRefuse: (key: string) => void;
}) {
  const [accepting, setAccepting] = useState<string | null>(null);
  const [reason, setReason] = useState('');
  const counts = (['stops', 'fails', 'doubt', 'hint'] as const)
    .map((s) => [s, findings.filter((f) => f.severity === s && !f.accepted).length] as const)
    .filter(([, n]) => n > 0);
  return (
    <Box component="section" aria-label="Plan check">
      <Typography variant="h2">Plan check</Typography>
      <Typography variant="body2" role="status" sx={{ mb: 1 }}>
        {counts.length === 0
          ? 'Nothing against it.'
          : counts.map(([s, n]) => `${n} × ${words[s].toLowerCase()}`).join(', ')}
      </Typography>
      {findings.map((f) => {
        const key = findingKey(f.rule, f);
        return (
          <Box
            key={`${key} ${f.text}`}
            tabIndex={0}
            onMouseEnter={() => onLight(f)}
            onMouseLeave={() => onLight(null)}
            onFocus={() => onLight(f)}
            onBlur={() => onLight(null)}
            sx={{ py: 1, borderTop: 1, borderColor: 'divider' }}
          >
            <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
              <SeverityMark severity={f.severity} />
              <Typography variant="h3">{f.title}</Typography>
              <Typography variant="caption" color="text.secondary">
                {f.accepted ? 'accepted' : words[f.severity].toLowerCase()}
              </Typography>
            </Box>
            <Typography variant="body2">{f.text}</Typography>
            {f.sum && (
              <Typography variant="body2">
                <Sum>{f.sum}</Sum>
              </Typography>
            )}
            {f.accepted ? (
              <Typography variant="body2" color="text.secondary">
                {f.accepted.by}: {f.accepted.reason}
              </Typography>
            ) : (
              <Typography variant="body2" color="text.secondary">
                {f.remedy}
              </Typography>
            )}
            <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
              {f.devices[0] && (
                <Button size="small" variant="text" onClick={() => onShow(f.devices[0]!)}>
                  Show
                </Button>
              )}
              {mayEdit && f.accepted && (
                <Button size="small" variant="text" onClick={() => onRefuse(key)}>
                  Take back
                </Button>
              )}
              {mayEdit && !f.accepted && f.severity !== 'stops' && (
                <Button
                  size="small"
                  variant="text"
                  aria-expanded={accepting === key}
                  onClick={() => setAccepting(accepting === key ? null : key)}
                >
                  Accept …
                </Button>
              )}
            </Box>
            {accepting === key && (
              <Box
                component="form"
                sx={{ display: 'flex', gap: 1, mt: 1 }}
                onSubmit={(e) => {
                  e.preventDefault();
                  if (!reason.trim()) return;
                  onAccept(key, reason.trim());
                  setAccepting(null);
                  setReason('');
                }}
              >
                <TextField
                  autoFocus
                  fullWidth
                  label="Reason"
                  value={reason}
                  onChange={(e) => setReason(e.target.value)}
                />
                <Button type="submit" disabled={!reason.trim()}>
                  Accept
                </Button>
              </Box>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
