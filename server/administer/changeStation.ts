import type { ChangeSite, ChangeStation, RetireStation } from '@/contract/planRequests';
import { row } from '@/db/database';
import { audit } from '../book/audit';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, notFound } from '../problem';
import { isId } from '../id';
import { lockActs } from '../station/atStation';
import { refuseZone } from './addStation';
import { oneSetUp } from './setUp';

/** Renames a station, moves it to another site, changes its cautions. */
export async function changeStation(
  ctx: Context,
  stationId: string,
  { code, name, siteId, cautions }: ChangeStation,
): Promise<{ changed: boolean }> {
  return oneSetUp(ctx, async (tx) => {
    await lockActs(ctx.db, tx, stationId);
    const before = isId(stationId)
      ? await row(ctx.db.station, { where: { id: stationId }, transaction: tx })
      : null;
    if (!before) throw notFound('station', stationId);
    const site = await row(ctx.db.site, { where: { id: siteId }, transaction: tx });
    if (!site) throw notFound('site', siteId);
    const other = await row(ctx.db.station, { where: { code }, transaction: tx });
    if (other && other.id !== stationId)
      throw badField(
        'code-taken',
        'code',
        code,
        `There is a station ${code} already.`,
        'Choose another code.',
      );
    const said = [
      before.code !== code && `${before.code} is ${code} now`,
      before.name !== name && `called ${name}`,
      before.siteId !== siteId && `moved to ${site.name}`,
      JSON.stringify(before.cautions) !== JSON.stringify(cautions) && 'its cautions changed',
    ].filter((s) => s !== false);
    if (said.length === 0) return { changed: false };
    await ctx.db.station.update(
      { code, name, siteId, cautions },
      { where: { id: stationId }, transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'connect',
      text: `Changed the station: ${said.join(', ')}`,
      action: 'station.change',
      subject: { code, siteId },
    });
    return { changed: true };
  });
}

/** Closes a station: it leaves the lists, its record stays; or opens it again. */
export async function retireStation(
  ctx: Context,
  stationId: string,
  { retired, reason }: RetireStation,
): Promise<{ retired: boolean }> {
  return oneSetUp(ctx, async (tx) => {
    await lockActs(ctx.db, tx, stationId);
    const before = isId(stationId)
      ? await row(ctx.db.station, { where: { id: stationId }, transaction: tx })
      : null;
    if (!before) throw notFound('station', stationId);
    if ((before.retiredAt !== null) === retired) return { retired };
    await ctx.db.station.update(
      { retiredAt: retired ? ctx.now() : null },
      { where: { id: stationId }, transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'connect',
      text: retired ? `Retired the station: ${reason}` : `Opened the station again: ${reason}`,
      action: retired ? 'station.retire' : 'station.reopen',
      subject: {},
    });
    return { retired };
  });
}

/** Changes a site: its name, zone, place, cautions. */
export async function changeSite(
  ctx: Context,
  siteId: string,
  change: ChangeSite,
): Promise<{ siteId: string }> {
  refuseZone('zone', change.zone);
  if ((change.latitude === null) !== (change.longitude === null))
    throw badField(
      'half-a-place',
      'latitude',
      change.latitude,
      'A place has a latitude and a longitude.',
      'Give both, or neither.',
    );
  return oneSetUp(ctx, async (tx) => {
    const before = isId(siteId) ? await row(ctx.db.site, { where: { id: siteId }, transaction: tx }) : null;
    if (!before) throw notFound('site', siteId);
    const other = await row(ctx.db.site, { where: { name: change.name }, transaction: tx });
    if (other && other.id !== siteId)
      throw badField(
        'name-taken',
        'name',
        change.name,
        `There is a site ${change.name} already.`,
        'Choose another name.',
      );
    await ctx.db.site.update({ ...change }, { where: { id: siteId }, transaction: tx });
    await audit(ctx, tx, 'site.change', null, { siteId, ...change });
    return { siteId };
  });
}
