import { read, validate } from '@/app/api/respond';
import { previewThresholds as schema } from '@/contract/verifyRequests';
import { previewThresholds } from '@/server/quality/preview';

/** A look only, so a GET; the thresholds come as JSON in the query. */
export const GET = read('view', (ctx, request, p) => {
  const query = request.nextUrl.searchParams;
  const asked = {
    from: query.get('from'),
    until: query.get('until'),
    thresholds: jsonOf(query.get('thresholds')),
  };
  return previewThresholds(ctx, p.stationId!, p.channelId!, validate(schema, asked));
});

function jsonOf(text: string | null): unknown {
  try {
    return JSON.parse(text ?? '');
  } catch {
    return text;
  }
}
