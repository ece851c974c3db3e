import { isDeepStrictEqual } from 'node:util';
import type { ChangeLines } from '@/contract/planRequests';
import { sdi12Serial } from '@/core/bus/sdi12';
import { serialText } from '@/core/bus/serial';
import { row } from '@/db/database';
import type { PortRow } from '@/db/rows';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { adapterOf, resolveDevice, serialLine } from '../device/line';
import { badField, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { loadStation, loggerOf, type StationGraph } from '../station/stationGraph';
import { gatewayProfileOf } from './loggerProfile';

type Line = ChangeLines['ports'][number];

/** What carries a serial line to the network, as it is asked for and shown; null for nothing. */
export function gatewayOf(port: PortRow): Line['gateway'] {
  const adapter = adapterOf(port);
  if (adapter !== null)
    return { profile: port.gatewayProfileCode, address: adapter, framing: 'sdi-12', serial: sdi12Serial };
  const line = serialLine(port);
  return (
    line && {
      profile: port.gatewayProfileCode,
      address: line.gatewayAddress,
      framing: line.framing,
      serial: line.serial,
    }
  );
}

/**
 * Changes how a station's logger is reached and fed, and what carries its serial lines. Addresses have to be on
 * the allow-list; nothing is asked of a device. Refused while a write to one of them is under way or its outcome
 * unknown, since it would be settled by asking another, and where a line that sensors hang on would be left
 * without a gateway.
 */
export async function changeLines(
  ctx: Context,
  stationId: string,
  request: ChangeLines,
): Promise<{ changed: boolean }> {
  await resolveDevice(ctx, request.address);
  const wanted = await Promise.all(
    request.ports.map(async ({ portId, gateway }, i) => {
      if (!gateway) return { portId, gateway: null, revision: null };
      await resolveDevice(ctx, gateway.address);
      const profile =
        gateway.profile === null
          ? null
          : await gatewayProfileOf(
              ctx.db,
              `ports.${i}.gateway.profile`,
              gateway.profile,
              gateway.framing === 'sdi-12' ? 'sdi-12' : 'modbus-rtu',
            );
      const framing = profile?.framing ?? gateway.framing;
      return {
        portId,
        gateway: { ...gateway, framing, ...(framing === 'sdi-12' && { serial: sdi12Serial }) },
        revision: profile?.revision ?? null,
      };
    }),
  );
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const logger = loggerOf(graph);
    const busy = await row(ctx.db.deviceAction, {
      where: { stationId, state: ['intent', 'unknown'] },
      transaction: tx,
    });
    if (busy)
      throw inTheWay(
        'action-open',
        'A write to a device of this station is under way, or its outcome is unknown.',
        'Wait for it, or read the logger back to settle it, then change its lines.',
        { actionId: busy.id },
      );
    const said: string[] = [];
    if (logger.address !== request.address) said.push(`its logger is at ${request.address}`);
    if (logger.supplyVoltage !== request.supplyVoltage) said.push(`fed with ${request.supplyVoltage} V`);
    await ctx.db.logger.update(
      { address: request.address, supplyVoltage: request.supplyVoltage },
      { where: { stationId, id: logger.id }, transaction: tx },
    );
    for (const { portId, gateway, revision } of wanted) {
      const port = graph.ports.find((p) => p.id === portId);
      if (!port) throw notFound('port', portId);
      refuseLine(graph, port, gateway);
      if (isDeepStrictEqual(gatewayOf(port), gateway)) continue;
      said.push(
        gateway
          ? `${port.name} by ${gateway.profile ?? (gateway.framing === 'sdi-12' ? 'an adapter' : 'a gateway')} at ${gateway.address}, ${serialText(gateway.serial)}`
          : `${port.name} without a gateway`,
      );
      await ctx.db.port.update(
        {
          gatewayAddress: gateway?.address ?? null,
          framing: gateway?.framing ?? null,
          baud: gateway?.serial.baud ?? null,
          dataBits: gateway?.serial.dataBits ?? null,
          parity: gateway?.serial.parity ?? null,
          stopBits: gateway?.serial.stopBits ?? null,
          gatewayProfileCode: gateway?.profile ?? null,
          gatewayProfileRevision: revision,
        },
        { where: { stationId, id: portId }, transaction: tx },
      );
    }
    if (said.length === 0) return { changed: false };
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'connect',
      text: `Changed the lines: ${said.join('; ')}`,
      action: 'station.lines',
      subject: { address: request.address, ports: wanted.map((p) => p.portId) },
    });
    return { changed: true };
  });
}

/** Refuses a gateway where there is no serial line, and none where sensors are asked through it. */
function refuseLine(graph: StationGraph, port: PortRow, gateway: Line['gateway']): void {
  const described = graph.loggerProfile?.ports.find((p) => p.name === port.name);
  const carried = described ? (described.bus?.kind ?? null) : 'modbus-rtu';
  if (gateway && carried !== (gateway.framing === 'sdi-12' ? 'sdi-12' : 'modbus-rtu'))
    throw badField(
      'no-serial-line',
      'ports',
      port.name,
      carried === 'sdi-12'
        ? `${port.name} is a data line of SDI-12: no gateway of serial lines speaks on it.`
        : `${port.name} is no ${gateway.framing === 'sdi-12' ? 'data line of SDI-12' : 'serial line'}.`,
      'Give a gateway to a serial port, an adapter to a data line.',
    );
  const hung = graph.installations.filter((i) => i.port.id === port.id && i.row.busId !== null);
  if (!gateway && hung.length > 0)
    throw badField(
      'line-in-use',
      'ports',
      port.name,
      `${hung.map((i) => i.sensor.serial).join(', ')} hang on ${port.name}.`,
      'Give the new gateway, or take the sensors out first.',
    );
}
