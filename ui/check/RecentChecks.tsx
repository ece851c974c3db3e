import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import type { CheckStartView } from '@/contract/checkViews';
import { formatDifference } from '@/core/quantity/format';
import { timeText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';

/** The checks of a station, newest first. */
export function RecentChecks({ start }: { start: CheckStartView }) {
  const { zone } = useStationBasics();
  return (
    <>
      <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
        Checks made here
      </Typography>
      {start.recent.length === 0 && <Typography>None yet.</Typography>}
      {start.recent.map((r) => (
        <Box
          key={r.id}
          sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', py: 0.75, borderTop: 1, borderColor: 'divider' }}
        >
          <Box sx={{ color: 'text.secondary', minWidth: 190 }}>{timeText(r.openedAt, zone)}</Box>
          <Link component={PageLink} href={`/stations/${start.stationId}/check/${r.id}`}>
            {r.channelName}
          </Link>
          <Box>
            {r.outcome ?? 'open'}
            {r.difference !== null && `, ${formatDifference(r.difference, r.decimals)} ${r.unit}`}
          </Box>
        </Box>
      ))}
    </>
  );
}
