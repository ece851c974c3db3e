import { addressText, serialLine } from '../device/line';
import type { Hop, SignalPathView, StationSheet } from '@/contract/views';
import { faultAdvice, type ExchangeFault } from '@/core/bus/faultAdvice';
import { serialText } from '@/core/bus/serial';
import { adjustmentWayNames, isHandWay, type AdjustmentWay } from '@/core/device/adjustmentWay';
import { decimalsOf, formatAge, formatDifference, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { isFed, neededLeads, outputAccuracy, outputPath } from '@/core/device/profile';
import type { HopKind } from '@/core/wiring/hop';
import { valueFromBase } from '@/core/quantity/unit';
import { cairnOf, holding, joinAlike, saidAt, type Finding, type FindingCode } from '@/core/trust/finding';
import { findingsOf } from '@/core/trust/findings';
import type { StationFacts } from '@/core/trust/stationFacts';
import { query, type Database } from '@/db/database';
import { newestReadings } from '@/db/record';
import { unknownActions } from '../device/deviceAction';
import { fieldBook } from '../book/fieldBook';
import { loadStation, type ChannelNode, type StationGraph, type InstallationNode } from './stationGraph';
import { mendDerived } from '../record/mendDerived';
import { lastProven, provenAt, type Proven } from '../bench/proven';
import { deviations } from '../plan/asWired';
import { lastTalks, type LastTalk } from '../device/talk';
import { gatherFacts } from '../trust/facts';
import { findingView } from '../trust/views';

/** The station sheet: its cairn, its signal paths hop by hop, what happened here lately. */
export async function stationSheet(db: Database, id: string, now: Date): Promise<StationSheet> {
  const graph = await loadStation(db, id);
  await mendDerived(db, id);
  const [{ facts: known }, unknown, happenings, newest, offsets, talks, elsewhere, pictures, proven] =
    await Promise.all([
      gatherFacts(db, graph),
      unknownActions(db, [id]),
      fieldBook(db, { station: id, limit: 12 }),
      newestReadings(
        db,
        graph.channels.map((c) => c.row.key),
      ),
      currentOffsets(db, id),
      lastTalks(db, id),
      deviations(db, graph),
      hopPictures(db, id),
      lastProven(db, graph),
    ]);
  const findings = holding(findingsOf(known), now.getTime());
  const { station, site, logger } = graph;
  return {
    id,
    code: station.code,
    name: station.name,
    site: site.name,
    zone: site.zone,
    cautions: station.cautions,
    logger: logger && {
      model: logger.model,
      serial: logger.serial,
      address: logger.address,
      utcOffsetMinutes: logger.utcOffsetMinutes,
      supplyVoltage: logger.supplyVoltage,
    },
    ports: graph.ports.map((p) => ({
      id: p.id,
      name: p.name,
      serial: serialLine(p)?.serial ?? null,
      gatewayAddress: p.gatewayAddress,
      devices: graph.installations
        .filter((i) => i.row.portId === p.id)
        .map((i) => ({
          at: addressText(i.row),
          sensor: `${i.profile.name} ${i.sensor.serial}`,
          zoneName: i.row.zoneName,
        })),
    })),
    cairn: cairnOf(findings),
    findings: joinAlike(findings).map((f) => findingView(f, now.getTime())),
    paths: graph.channels.map((c) =>
      signalPath(graph, c, findings, now.getTime(), {
        record: newest.get(c.row.key) ?? null,
        offset: offsets.get(c.row.id) ?? null,
        talk: talks.get(c.installation?.row.id ?? '') ?? null,
        elsewhere: elsewhere.get(c.installation?.row.id ?? '') ?? [],
        proven: proven.get(c.row.id) ?? null,
        pictures: (hop) => pictures.get(`${c.row.id} ${hop}`) ?? 0,
      }),
    ),
    happenings,
    unknownActions: unknown,
    clock: clockView(known.logger),
  };
}

const clockView = (logger: StationFacts['logger']): StationSheet['clock'] =>
  logger?.clock ? { ...logger.clock, at: new Date(logger.clock.at).toISOString() } : null;

interface Seen {
  readonly record: { at: number; value: number } | null;
  readonly offset: { resulting: number | null; at: Date; place: string; mode: AdjustmentWay } | null;
  readonly talk: LastTalk | null;
  /** Leads that lie elsewhere than planned. */
  readonly elsewhere: readonly string[];
  /** What a meter said of it last. */
  readonly proven: Proven | null;
  readonly pictures: (hop: HopKind) => number;
}

/** What was seen last. */
const newer = (a: Hop['seen'], b: Hop['seen']): Hop['seen'] => (a && b ? (a.at > b.at ? a : b) : (a ?? b));

/** How many photographs show each hop, by channel and hop. */
async function hopPictures(db: Database, stationId: string): Promise<ReadonlyMap<string, number>> {
  const found = await query<{ at: string; n: number }>(
    db,
    `select channel_id || ' ' || hop as at, count(*)::integer as n from photograph
      where station_id = :stationId and taken_back_at is null and hop is not null group by 1`,
    { stationId },
  );
  return new Map(found.map((f) => [f.at, f.n]));
}

/** Port, address and serial parameters; terminals where those are all. */
const inputText = (i: InstallationNode): string =>
  [i.port.name, addressText(i.row), serialLine(i.port) && serialText(serialLine(i.port)!.serial)]
    .filter(Boolean)
    .join(' · ');

function signalPath(
  graph: StationGraph,
  c: ChannelNode,
  findings: readonly Finding[],
  now: number,
  seen: Seen,
): SignalPathView {
  const q = quantityOf(c.row.quantity);
  const { output } = c;
  const i = c.installation;
  const set = c.written?.settings ?? c.staged?.settings ?? null;
  const unit = set?.unit ?? q.unit;
  const decimals = output ? Math.min(q.decimals + 1, decimalsOf(output.resolution)) : q.decimals;
  const decoded = seen.talk?.decoded.find((d) => d.output === output?.key);
  const talkedAt = seen.talk?.at.toISOString() ?? '';
  const hop = (
    kind: Hop['kind'],
    configured: string,
    was: Hop['seen'],
    about: (f: Finding) => boolean,
  ): Hop => {
    const worst = findings.find((f) => about(f));
    const why = worst ? saidAt(worst.text, now) : null;
    const pictures = seen.pictures(kind);
    return {
      kind,
      configured,
      seen: newer(was, provenAt(kind, seen.proven)),
      state: worst?.state ?? 'sound',
      why,
      pictures,
    };
  };
  const mine = (f: Finding) => f.subject.kind === 'channel' && f.subject.id === c.row.id;
  const ofSensor = (f: Finding, ...codes: FindingCode[]) =>
    f.subject.kind === 'installation' && f.subject.id === i?.row.id && codes.includes(f.code);
  return {
    channelId: c.row.id,
    number: c.row.number,
    name: c.name,
    zoneName: c.row.zoneName,
    quantity: c.row.quantity,
    unit,
    enabled: set?.enabled ?? true,
    hops: [
      hop(
        'element',
        i ? `${i.profile.name}${output ? `, ${outputAccuracy(output)}` : ''}` : 'no sensor',
        decoded?.value != null
          ? { text: `${formatValue(decoded.value, decimals)} ${q.unit}`, at: talkedAt }
          : null,
        (f) => mine(f) && (f.code === 'stuck' || f.code === 'does-not-converge'),
      ),
      hop(
        'leads',
        i
          ? `${i.leads.length} of ${neededLeads(i.profile).length} leads${isFed(i.profile) ? `, ${formatValue(i.supply.atSensor, 2)} V at sensor` : ''}${seen.elsewhere.length ? `; not as planned: ${seen.elsewhere.join(', ')}` : ''}`
          : 'none',
        null,
        (f) => ofSensor(f, 'leads-unrecorded', 'supply-outside'),
      ),
      hop(
        'input',
        i ? inputText(i) : 'none',
        seen.talk
          ? {
              text: seen.talk.fault ? faultAdvice(seen.talk.fault as ExchangeFault).title : 'answered',
              at: talkedAt,
            }
          : null,
        (f) => ofSensor(f, 'never-talked', 'talk-failed'),
      ),
      hop(
        'conversion',
        output ? outputPath(output) : unit,
        decoded?.raw != null ? { text: `raw ${decoded.raw}`, at: talkedAt } : null,
        (f) => (mine(f) && f.stone === 'settings') || ofSensor(f, 'profile-missing'),
      ),
      hop(
        'adjustment',
        set ? `in the ${set.adjustIn}` : 'not set',
        seen.offset
          ? {
              text: isHandWay(seen.offset.mode)
                ? adjustmentWayNames[seen.offset.mode]
                : `${formatDifference(seen.offset.resulting, decimals)} ${q.unit} (${seen.offset.place})`,
              at: seen.offset.at.toISOString(),
            }
          : null,
        (f) => mine(f) && f.stone === 'reference' && f.code !== 'does-not-converge',
      ),
      hop(
        'record',
        set ? `every ${formatAge(set.storageInterval)}` : 'not set',
        seen.record
          ? {
              text: `${formatValue(valueFromBase(seen.record.value, unit, q.unit), decimals)} ${unit}`,
              at: new Date(seen.record.at).toISOString(),
            }
          : null,
        (f) => f.stone === 'record' && f.channels.includes(c.row.id) && f.code !== 'stuck',
      ),
    ],
  };
}

/** The adjustment in force on each channel of a station. */
export async function currentOffsets(db: Database, stationId: string) {
  const found = await query<{
    channelId: string;
    resulting: number | null;
    at: Date;
    place: string;
    mode: AdjustmentWay;
  }>(
    db,
    `select distinct on (channel_id) channel_id as "channelId", resulting, effective_at as at, place, mode
       from adjustment where station_id = :stationId order by channel_id, effective_at desc`,
    { stationId },
  );
  return new Map(found.map((f) => [f.channelId, f]));
}
