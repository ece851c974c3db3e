'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import type { SmallTraceView } from '@/contract/recordViews';
import type { Hop, SignalPathView } from '@/contract/views';
import type { HopKind } from '@/core/wiring/hop';
import { Age } from '../shared/Age';
import { SmallTrace } from '../shared/SmallTrace';
import { StateMark, stateWord } from '../shared/stateMark';

function hopHref(stationId: string, path: SignalPathView, kind: HopKind): string {
  const base = `/stations/${stationId}`;
  switch (kind) {
    case 'element':
    case 'leads':
    case 'input':
      return `${base}/connect`;
    case 'conversion':
      return `${base}/connect#settings`;
    case 'adjustment':
      return `${base}/check?channel=${path.channelId}`;
    case 'record':
      return `${base}/trace/${path.channelId}`;
  }
}

/** One channel's path, hop by hop, left to right as the signal runs. */
export function SignalPath({
  stationId,
  path,
  trace,
  now,
}: {
  stationId: string;
  path: SignalPathView;
  trace: SmallTraceView | undefined;
  /** What its hops show at this moment, where they were asked. */
  now: { at: string; hops: Partial<Record<HopKind, string>> } | undefined;
}) {
  return (
    <Box
      component="li"
      sx={{ py: 1.25, borderBottom: 1, borderColor: 'divider', opacity: path.enabled ? 1 : 0.7 }}
    >
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        {path.number === null ? '' : `${path.number} · `}
        {path.name}{' '}
        <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
          {path.zoneName}
          {path.enabled ? '' : ' · switched off'}
        </Box>
      </Typography>
      <Box
        component="ol"
        sx={{
          listStyle: 'none',
          m: 0,
          p: 0,
          display: 'grid',
          gridTemplateColumns: { xs: 'repeat(2, 1fr)', sm: 'repeat(3, 1fr)', lg: 'repeat(6, 1fr)' },
          rowGap: 1.25,
        }}
      >
        {path.hops.map((hop, i) => (
          <HopView
            key={hop.kind}
            hop={now?.hops[hop.kind] ? { ...hop, seen: { text: now.hops[hop.kind]!, at: now.at } } : hop}
            href={hopHref(stationId, path, hop.kind)}
            pictures={`/stations/${stationId}/connect/plan#photographs`}
            last={i === path.hops.length - 1}
            trace={hop.kind === 'record' ? trace : undefined}
          />
        ))}
      </Box>
    </Box>
  );
}

function HopView({
  hop,
  href,
  pictures,
  last,
  trace,
}: {
  hop: Hop;
  href: string;
  /** Where its photographs are. */
  pictures: string;
  last: boolean;
  trace: SmallTraceView | undefined;
}) {
  const broken = hop.state !== 'sound';
  return (
    <Box component="li" sx={{ minWidth: 0, pr: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75 }}>
        <StateMark state={hop.state} size={20} />
        <Link
          component={PageLink}
          href={href}
          variant="body2"
          sx={{ fontWeight: 600, color: 'text.primary' }}
        >
          {hop.kind}
        </Link>
        {!last && (
          <Box
            aria-hidden
            sx={{
              flexGrow: 1,
              height: 0,
              borderTop: 2,
              borderStyle: broken ? 'dashed' : 'solid',
              borderColor: broken ? 'error.main' : 'secondary.main',
              ml: 0.5,
            }}
          />
        )}
      </Box>
      <Typography variant="body2" sx={{ mt: 0.25, pr: 1 }}>
        {hop.configured}
      </Typography>
      {hop.seen && (
        <Typography variant="body2" sx={{ fontWeight: 600 }}>
          {hop.seen.text}{' '}
          <Box component="span" sx={{ fontWeight: 400, color: 'text.secondary', fontSize: '0.8rem' }}>
            <Age at={hop.seen.at} />
          </Box>
        </Typography>
      )}
      {trace && <SmallTrace trace={trace} />}
      {hop.pictures > 0 && (
        <Link component={PageLink} href={pictures} variant="body2">
          {hop.pictures} {hop.pictures === 1 ? 'photograph' : 'photographs'}
        </Link>
      )}
      {broken && (
        <Typography
          variant="caption"
          sx={{ color: hop.state === 'displaced' ? 'error.main' : 'text.secondary', display: 'block', pr: 1 }}
        >
          {hop.why ?? stateWord[hop.state]}
        </Typography>
      )}
    </Box>
  );
}
