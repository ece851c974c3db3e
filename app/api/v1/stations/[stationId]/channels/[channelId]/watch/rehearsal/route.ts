import { read, validate } from '@/app/api/respond';
import { rehearseRule as schema } from '@/contract/watch';
import { rehearseHere } from '@/server/watch/recorded';

/** A look, not a write: the rule comes in the address, as JSON. */
export const GET = read('view', (ctx, request, { stationId, channelId }) => {
  const asked = request.nextUrl.searchParams;
  const body = validate(schema, {
    rule: parsed(asked.get('rule') ?? ''),
    from: asked.get('from') ?? '',
    until: asked.get('until') ?? '',
    asArrived: asked.get('asArrived') === 'true',
  });
  return rehearseHere(ctx, stationId!, channelId!, body);
});

const parsed = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
};
