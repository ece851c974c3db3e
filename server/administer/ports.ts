import type { Transaction } from 'sequelize';
import type { StationDescription } from '@/contract/stationDescription';
import type { GatewayProfile } from '@/core/device/equipment';
import type { Terminal as ProfileTerminal, LoggerProfile } from '@/core/device/loggerProfile';
import type { Signal } from '@/core/wiring/landing';
import { rows } from '@/db/database';
import type { Context } from '../context';
import { newId } from '../id';
import { badField } from '../problem';

/** What a terminal is mainly for, in the word of leads. */
export function signalOf({ abilities }: ProfileTerminal): Signal {
  const [first] = abilities;
  switch (first!.does) {
    case 'supply':
      return 'supply+';
    case 'ground':
      return first!.reference === 'bus earth' ? 'common' : 'supply−';
    case 'sdi-12':
    case 'chain':
      return 'data';
    case 'analog':
    case 'current':
      return 'signal+';
    default:
      return first!.does;
  }
}

/**
 * Makes the ports and terminals of a logger: all of its profile, those that are there already left as they are;
 * the described port gets its gateway and serial settings.
 *
 * @returns the id of the described port; null where none was described
 */
export async function layPorts(
  ctx: Context,
  transaction: Transaction,
  { stationId, loggerId }: { readonly stationId: string; readonly loggerId: string },
  profile: LoggerProfile | null,
  described: StationDescription['port'] | null,
  gateway: GatewayProfile | null = null,
): Promise<string | null> {
  const there = await rows(ctx.db.port, { where: { stationId, loggerId }, transaction });
  const labels = new Set(
    (await rows(ctx.db.terminal, { where: { stationId }, transaction })).map((t) => `${t.portId} ${t.label}`),
  );
  const lines = profile?.ports.filter((p) => p.bus?.kind === 'modbus-rtu') ?? [];
  if (described && profile && !lines.some((p) => p.name === described.name))
    throw badField(
      'port-not-there',
      'port.name',
      described.name,
      `A ${profile.name} has no serial port "${described.name}"; it has ${lines.map((p) => p.name).join(', ') || 'none'}.`,
      'Choose one of those.',
    );
  const wanted = [
    ...(profile?.ports.map((p) => ({
      name: p.name,
      terminals: p.terminals.map((t) => ({ label: t.label, signal: signalOf(t) })),
    })) ?? []),
    ...(described && !profile ? [{ name: described.name, terminals: described.terminals ?? [] }] : []),
  ];
  let portId: string | null = null;
  for (const { name, terminals } of wanted) {
    const known = there.find((p) => p.name === name);
    const id = known?.id ?? newId();
    const mine = described?.name === name ? described : null;
    if (mine) portId = id;
    if (!known)
      await ctx.db.port.create(
        {
          stationId,
          id,
          loggerId,
          name,
          ...(mine && {
            gatewayAddress: mine.gatewayAddress,
            framing: gateway?.framing ?? mine.framing ?? 'rtu',
            gatewayProfileCode: gateway?.code ?? null,
            gatewayProfileRevision: gateway?.revision ?? null,
            ...mine.serial,
          }),
        },
        { transaction },
      );
    for (const t of terminals)
      if (!labels.has(`${id} ${t.label}`))
        await ctx.db.terminal.create({ stationId, id: newId(), portId: id, ...t }, { transaction });
  }
  return portId;
}
