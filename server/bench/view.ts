import { Op } from 'sequelize';
import type { BenchSensorView, BenchSessionView, BenchView } from '@/contract/bench';
import { besideOf } from '@/core/circuit/together';
import { isMeasured, type CircuitLead } from '@/core/circuit/path';
import { plainInput, type PathInput } from '@/core/circuit/pathInput';
import { offLineReason } from '@/core/circuit/session';
import { terminalsOf, type Ability } from '@/core/device/loggerProfile';
import { decimalsOf } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { query, rows, type Database } from '@/db/database';
import { newestReadings } from '@/db/record';
import { terminalLabel } from '../device/channelInput';
import { meters } from '../kit/meters';
import { stationHead } from '../station/stationBasics';
import { loadStation, type InstallationNode, type StationGraph } from '../station/stationGraph';

/** What of a station a meter can judge, with what was measured there. */
export async function benchView(db: Database, stationId: string): Promise<BenchView> {
  const [head, graph, kit, instruments] = await Promise.all([
    stationHead(db, stationId),
    loadStation(db, stationId),
    meters(db),
    rows(db.instrument, { where: { retiredAt: null }, order: [['name', 'ASC']] }),
  ]);
  const measured = graph.installations.filter((i) => isMeasured(i.profile));
  const [sessions, newest, offLine] = await Promise.all([
    sessionsOf(db, stationId),
    newestReadings(
      db,
      graph.channels.filter((c) => measured.includes(c.installation!)).map((c) => c.row.key),
    ),
    query<{ channelId: string; fromAt: Date; reason: string }>(
      db,
      `select channel_id as "channelId", from_at as "fromAt", reason from active_layer
        where station_id = :stationId and kind = 'off-line' and until_at is null`,
      { stationId },
    ),
  ]);
  return {
    ...head,
    meters: kit,
    sensors: measured.map((i): BenchSensorView => {
      const channels = graph.channels.filter((c) => c.installation === i && c.output);
      const off = offLine.filter((o) => channels.some((c) => c.row.id === o.channelId));
      const { code, name, connection, leads, outputs, cautions, immersible } = i.profile;
      return {
        installationId: i.row.id,
        serial: i.sensor.serial,
        zone: i.row.zoneName,
        profile: {
          code,
          name,
          connection,
          leads,
          outputs,
          cautions,
          ...(immersible !== undefined && { immersible }),
        },
        channels: channels.map((c) => {
          const last = newest.get(c.row.key) ?? null;
          return {
            channelId: c.row.id,
            outputKey: c.output!.key,
            name: c.name,
            unit: quantityOf(c.row.quantity).unit,
            decimals: decimalsOf(c.output!.resolution),
            value: last?.value ?? null,
            at: last ? new Date(last.at).toISOString() : null,
            references: instruments.flatMap((r) => {
              const its = besideOf(c.row.quantity, r.quantities);
              return its ? [{ name: `${r.name} ${r.serial}`, tolerance: its.tolerance }] : [];
            }),
          };
        }),
        setup: setupOf(graph, i),
        neighbours: graph.installations
          .filter((o) => o !== i && o.port.id === i.port.id)
          .map((o) => ({
            installationId: o.row.id,
            serial: o.sensor.serial,
            zone: o.row.zoneName,
            isPulled: offLine.some(
              (l) =>
                l.reason === offLineReason(i.sensor.serial) &&
                graph.channels.some((c) => c.row.id === l.channelId && c.installation === o),
            ),
          })),
        mains: mainsNear(cautions),
        offLineSince: off[0]?.fromAt.toISOString() ?? null,
        sessions: sessions.get(i.row.id) ?? [],
      };
    }),
  };
}

/** A caution that speaks of mains: what is near it is for licensed people. */
const mainsNear = (cautions: readonly string[]): string | null =>
  cautions.find((c) => /\bmains\b|\bphotovoltaic\b/i.test(c)) ?? null;

/** Ω of a lead whose cable nobody described. */
const shortLead = 0.05;

/** The leads of a sensor as they land, and what its input brings, as far as the logger's description says. */
export function setupOf(
  graph: StationGraph,
  i: InstallationNode,
): { leads: CircuitLead[]; input: PathInput } {
  const metres = i.row.cableLength;
  const ohms = Math.max(shortLead, (metres * i.row.cableResistance) / 1000);
  const abilities = (signal: string): readonly Ability[] => {
    const lead = i.leads.find((l) => l.signal === signal);
    const label = lead && terminalLabel(graph, lead.terminalId);
    return (
      (graph.loggerProfile &&
        terminalsOf(graph.loggerProfile).find((t) => t.terminal.label === label)?.terminal.abilities) ??
      []
    );
  };
  const excitation = abilities('excitation').find((a) => a.does === 'excitation')?.volts;
  const shunt = abilities('signal+').find((a) => a.does === 'current')?.shunt;
  return {
    leads: i.profile.leads
      .filter((l) => l.signal !== 'spare' && l.signal !== 'shield')
      .map((l) => ({
        colour: l.colour,
        signal: l.signal,
        ohms,
        terminal: ((at) => (at ? terminalLabel(graph, at.terminalId) : null))(
          i.leads.find((x) => x.colour === l.colour),
        ),
      })),
    input: {
      ...plainInput,
      volts: i.supply.atSensor + i.supply.drop,
      ...(excitation !== undefined && { excitation }),
      ...(shunt !== undefined && { shunt }),
    },
  };
}

/** Sessions of a station by what was measured, newest first, with their readings in order. */
async function sessionsOf(db: Database, stationId: string): Promise<Map<string, BenchSessionView[]>> {
  const sessions = await rows(db.benchSession, {
    where: { stationId },
    order: [['openedAt', 'DESC']],
    limit: 60,
  });
  const readings = await rows(db.benchReading, {
    where: { stationId, sessionId: { [Op.in]: sessions.map((s) => s.id) } },
    order: [
      ['occurredAt', 'ASC'],
      ['id', 'ASC'],
    ],
  });
  const people = await query<{ id: string; initials: string }>(db, 'select id, initials from person');
  const by = new Map(people.map((p) => [p.id, p.initials]));
  const found = new Map<string, BenchSessionView[]>();
  for (const s of sessions) {
    const view: BenchSessionView = {
      id: s.id,
      channelId: s.channelId,
      meterId: s.meterId,
      setup: s.setup,
      openedAt: s.openedAt.toISOString(),
      by: by.get(s.personId) ?? '',
      readings: readings
        .filter((r) => r.sessionId === s.id)
        .map((r) => ({
          id: r.id,
          measured: r.measured,
          shows: r.shows,
          typed: r.typed,
          at: r.occurredAt.getTime(),
          by: by.get(r.personId) ?? '',
        })),
      endedAt: s.endedAt?.toISOString() ?? null,
      outcome: s.outcome,
      says: s.says,
      likelihood: s.likelihood,
    };
    found.set(s.installationId, [...(found.get(s.installationId) ?? []), view]);
  }
  return found;
}
