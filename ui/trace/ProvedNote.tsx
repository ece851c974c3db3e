import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { outsideProved } from '@/core/check/provedSpan';
import { formatValue } from '@/core/quantity/format';
import PageLink from '../shared/PageLink';
import type { VerifyProps } from './verifyProps';

/** Over which values the sensor was proved, and how much of what is on screen lies outside. */
export function ProvedNote({ series, verify }: Pick<VerifyProps, 'series' | 'verify'>) {
  const { proved, unit, decimals, stationId } = verify;
  if (!proved) return null;
  const said = (v: number) => formatValue(v, decimals);
  const where =
    said(proved.low) === said(proved.high)
      ? `at ${said(proved.low)} ${unit}`
      : `between ${said(proved.low)} and ${said(proved.high)} ${unit}`;
  const out = outsideProved(series.points, proved, proved.limit);
  return (
    <Typography>
      {proved.isAdjusted ? 'Adjusted and proved' : 'Proved'} {where}
      {proved.material && ` on ${proved.material}`} by the{' '}
      <Link component={PageLink} href={`/stations/${stationId}/check/${proved.checkId}`}>
        check of {proved.at.slice(0, 10)}
      </Link>
      .
      {out &&
        (out.share < 0.005
          ? ' What is on screen lies near it.'
          : ` On screen it goes from ${said(out.from)} to ${said(out.to)} ${unit}: ${Math.round(100 * out.share)} % lies further than ${said(5 * proved.limit)} ${unit} from it, where nothing proves it.`)}
    </Typography>
  );
}
