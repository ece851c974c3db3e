import { IANAZone } from 'luxon';
import { stationDescription, type StationDescription } from '@/contract/stationDescription';
import type { Signal } from '@/core/wiring/landing';
import { row } from '@/db/database';
import { audit } from '../book/audit';
import type { Context } from '../context';
import { newId } from '../id';
import { badField } from '../problem';

/** Adds a station with its logger, port and terminals; its site too, when that is new. */
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
  if (!IANAZone.isValidZone(d.site.zone))
    throw badField(
      'bad-zone',
      'site.zone',
      d.site.zone,
      `"${d.site.zone}" is no time zone.`,
      'Use a name of the IANA time zone database, or Etc/UTC.',
    );
  if (!d.logger !== !d.port)
    throw badField(
      'half-described',
      d.logger ? 'port' : 'logger',
      null,
      `${d.logger ? 'The logger has no port' : 'The port has no logger'}.`,
      'Describe both, or neither for a station whose record comes from files.',
    );
  if (await row(ctx.db.station, { where: { code: d.code } }))
    throw badField(
      'code-taken',
      'code',
      d.code,
      `There is a station ${d.code} already.`,
      'Choose another code.',
    );
  const stationId = newId();
  const portId = d.port ? newId() : null;
  await ctx.db.transact(async (transaction) => {
    const site = await row(ctx.db.site, { where: { name: d.site.name }, transaction });
    const siteId = site?.id ?? newId();
    if (!site)
      await ctx.db.site.create(
        { id: siteId, name: d.site.name, zone: d.site.zone, note: d.site.note ?? '' },
        { transaction },
      );
    await ctx.db.station.create(
      { id: stationId, siteId, code: d.code, name: d.name, cautions: d.cautions ?? [] },
      { transaction },
    );
    if (d.logger && d.port && portId) {
      const loggerId = newId();
      await ctx.db.logger.create({ stationId, id: loggerId, ...d.logger }, { transaction });
      const { serial, terminals, ...port } = d.port;
      await ctx.db.port.create(
        { stationId, id: portId, loggerId, ...port, framing: port.framing ?? 'rtu', ...serial },
        { transaction },
      );
      for (const t of terminals)
        await ctx.db.terminal.create(
          { stationId, id: newId(), portId, label: t.label, signal: t.signal as Signal },
          { transaction },
        );
    }
    await audit(ctx, transaction, 'station.add', stationId, { code: d.code });
  });
  return { stationId, portId };
}
