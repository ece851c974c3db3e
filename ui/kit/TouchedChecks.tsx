import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import type { TouchedCheckView, TouchedSide } from '@/contract/foundOff';
import type { Verdict } from '@/core/check/verdict';
import { formatDifference } from '@/core/quantity/format';
import { StateMark } from '../shared/stateMark';

const verdictWords: Readonly<Record<Verdict['kind'], string>> = {
  agree: 'they agree',
  adjust: 'adjust',
  'beyond-guard': 'beyond the guard',
  'not-settled': 'not settled',
};
const endWords: Readonly<Record<string, string>> = {
  converged: 'it holds',
  'try-again': 'adjust once more',
  'does-not-converge': 'does not converge',
};

/** What one side says: as found, its verdict, and where something was adjusted, as left. */
function sideText(s: TouchedSide, decimals: number): string {
  const found = `${formatDifference(s.asFound, decimals)}, ${s.verdict ? verdictWords[s.verdict] : 'nothing'}`;
  return s.convergence
    ? `${found}; as left ${formatDifference(s.asLeft, decimals)}, ${endWords[s.convergence] ?? s.convergence}`
    : found;
}

/** Checks that an error of their reference touches, those that would have said something else at the top. */
export function TouchedChecks({ touched }: { touched: readonly TouchedCheckView[] }) {
  const changed = touched.filter((t) => t.isChanged);
  if (touched.length === 0)
    return <Typography role="status">No check between then and now was made with it.</Typography>;
  return (
    <Box>
      <Typography role="status" sx={{ fontWeight: 600 }}>
        {touched.length} {touched.length === 1 ? 'check' : 'checks'} touched, {changed.length} would have said
        something else.
      </Typography>
      <Box sx={{ overflowX: 'auto' }}>
        <Box
          component="table"
          aria-label="Checks it touches"
          sx={{
            minWidth: 640,
            borderCollapse: 'collapse',
            '& td, & th': { pr: 2, py: 0.5, textAlign: 'left', verticalAlign: 'top' },
          }}
        >
          <thead>
            <tr>
              <th>Check</th>
              <th>It said</th>
              <th>It would have said</th>
              <th>To do</th>
            </tr>
          </thead>
          <tbody>
            {[...changed, ...touched.filter((t) => !t.isChanged)].map((t) => (
              <tr key={t.checkId}>
                <td>
                  <Box sx={{ display: 'flex', gap: 1 }}>
                    <StateMark state={t.isChanged ? 'displaced' : 'sound'} />
                    <span>
                      {t.openedAt.slice(0, 10)} {t.stationCode}{' '}
                      <Link component={PageLink} href={`/stations/${t.stationId}/check/${t.checkId}`}>
                        {t.channelName}
                      </Link>
                    </span>
                  </Box>
                </td>
                <td>
                  {sideText(t.before, t.decimals)} ({t.unit})
                </td>
                <td>
                  {t.isChanged ? <b>{sideText(t.after, t.decimals)}</b> : sideText(t.after, t.decimals)}
                </td>
                <td>{toDo(t)}</td>
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}

/** What follows from it; nothing is done by itself. */
function toDo(t: TouchedCheckView): string {
  if (!t.isChanged) return '–';
  if (t.adjustedIn === 'device')
    return `${formatDifference(t.adjustedBy, t.decimals)} ${t.unit} was written by a wrong reference: check it again, correct the record since then`;
  if (t.adjustedIn === 'record') return 'take its correction back beside the trace, and check it again';
  return t.after.verdict === 'adjust' || t.after.verdict === 'beyond-guard'
    ? 'it let a sensor pass that was out: check it again'
    : 'it was in tolerance: check it again before anybody trusts the verdict';
}
