import { IANAZone } from 'luxon';
import type { Transaction } from 'sequelize';
import { stationDescription, type StationDescription } from '@/contract/stationDescription';
import { row } from '@/db/database';
import { audit } from '../book/audit';
import type { Context } from '../context';
import { newId } from '../id';
import { badField } from '../problem';
import { gatewayProfileOf, loggerProfileOf } from './loggerProfile';
import { layPorts } from './ports';
import { oneSetUp } from './setUp';

/**
 * Adds a station with its logger, ports and terminals; its site too, when that is new. Ports and terminals come
 * from the logger's profile, or from the description where it has none.
 */
export async function addStation(
  ctx: Context,
  description: unknown,
): Promise<{ stationId: string; portId: string | null }> {
  const { error, value } = stationDescription.validate(description);
  if (error)
    throw badField(
      'invalid',
      error.details[0]!.path.join('.'),
      error.details[0]!.context?.value,
      `${error.message}.`,
      'Correct the description.',
    );
  const d: StationDescription = value;
  refuseZone('site.zone', d.site.zone);
  if (((d.site.latitude ?? null) === null) !== ((d.site.longitude ?? null) === null))
    throw badField(
      'half-a-place',
      'site.latitude',
      d.site.latitude ?? null,
      'A place has a latitude and a longitude.',
      'Give both, or neither.',
    );
  if (d.port && !d.logger)
    throw badField(
      'half-described',
      'logger',
      null,
      'The port has no logger.',
      'Describe both, or neither for a station whose record comes from files.',
    );
  if (d.logger && !d.logger.profile && !d.port?.terminals)
    throw badField(
      'half-described',
      'port',
      null,
      'The logger has no port.',
      'Name its profile, or describe its port with its terminals.',
    );
  const profile = d.logger?.profile ? await loggerProfileOf(ctx.db, d.logger.profile) : null;
  const gateway = d.port?.gatewayProfile
    ? await gatewayProfileOf(ctx.db, 'port.gatewayProfile', d.port.gatewayProfile)
    : null;
  const stationId = newId();
  return oneSetUp(ctx, async (tx) => {
    await refuseTaken(ctx, tx, d);
    const site = await row(ctx.db.site, { where: { name: d.site.name }, transaction: tx });
    const siteId = site?.id ?? newId();
    if (!site)
      await ctx.db.site.create(
        {
          id: siteId,
          name: d.site.name,
          zone: d.site.zone,
          note: d.site.note ?? '',
          latitude: d.site.latitude ?? null,
          longitude: d.site.longitude ?? null,
          cautions: d.site.cautions ?? [],
        },
        { transaction: tx },
      );
    await ctx.db.station.create(
      { id: stationId, siteId, code: d.code, name: d.name, cautions: d.cautions ?? [] },
      { transaction: tx },
    );
    let portId: string | null = null;
    if (d.logger) {
      const loggerId = newId();
      const { profile: _, ...logger } = d.logger;
      await ctx.db.logger.create(
        {
          stationId,
          id: loggerId,
          ...logger,
          profileCode: profile?.code ?? null,
          profileRevision: profile?.revision ?? null,
        },
        { transaction: tx },
      );
      portId = await layPorts(ctx, tx, { stationId, loggerId }, profile, d.port ?? null, gateway);
    }
    await audit(ctx, tx, 'station.add', stationId, { code: d.code });
    return { stationId, portId };
  });
}

/** Refuses what is no name of a time zone. */
export function refuseZone(field: string, zone: string): void {
  if (!IANAZone.isValidZone(zone))
    throw badField(
      'bad-zone',
      field,
      zone,
      `"${zone}" is no time zone.`,
      'Use a name of the IANA time zone database, or Etc/UTC.',
    );
}

async function refuseTaken(ctx: Context, transaction: Transaction, d: StationDescription): Promise<void> {
  if (await row(ctx.db.station, { where: { code: d.code }, transaction }))
    throw badField(
      'code-taken',
      'code',
      d.code,
      `There is a station ${d.code} already.`,
      'Choose another code.',
    );
  const known = d.logger && (await row(ctx.db.logger, { where: { serial: d.logger.serial }, transaction }));
  if (known)
    throw badField(
      'logger-taken',
      'logger.serial',
      d.logger!.serial,
      `Logger ${d.logger!.serial} is at a station already.`,
      'Read its label again.',
    );
}
