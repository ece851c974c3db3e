import { driftOutlook } from '../check/drift';
import { decimalsOf, formatAge, formatDifference, formatValue } from '../quantity/format';
import { quantityOf } from '../quantity/quantity';
import { clockTolerance } from '../series/clock';
import { weights, type Finding, type FindingCode, type StoneName } from './finding';
import type { ChannelFacts, InstallationFacts, StationFacts } from './stationFacts';

const day = 86_400_000;

/** A contact older than this leaves the link unproved, days. Our own choice. */
export const contactEvery = 2;
/** A line that will leave its tolerance within this many days is worth saying. Our own choice. */
export const driftHorizon = 30;

function finding(
  stone: StoneName,
  state: Finding['state'],
  code: FindingCode,
  text: string,
  next: string,
  bring: readonly string[] = [],
  channelId: string | null = null,
): Finding {
  return { stone, state, code, weight: weights[code], channelId, text, next, bring };
}

/** Every reason why a station needs someone, in no particular order. Pure: same facts, same findings. */
export function findingsOf(facts: StationFacts): Finding[] {
  const logged = facts.channels.filter((c) => c.fedBy === 'logger');
  return [
    ...linkFindings(facts),
    ...facts.installations.flatMap(wiringFindings),
    ...logged.flatMap((c) => settingFindings(c, facts.now)),
    ...logged.filter((c) => c.enabled).flatMap((c) => referenceFindings(c, facts.now)),
    ...recordFindings({ ...facts, channels: logged }),
  ];
}

function linkFindings(facts: StationFacts): Finding[] {
  const found: Finding[] = [];
  if (facts.unknownActions > 0)
    found.push(
      finding(
        'power and link',
        'displaced',
        'action-unknown',
        `${facts.unknownActions} write to the logger with unknown outcome`,
        'Read the logger back to settle it',
      ),
    );
  if (facts.lastContactFault)
    found.push(
      finding(
        'power and link',
        'displaced',
        'link-failed',
        `Last contact with the logger failed: ${facts.lastContactFault}`,
        'Power and network at the logger first',
        ['multimeter', 'network lead'],
      ),
    );
  if (facts.lastContact === null) {
    found.push(
      finding(
        'power and link',
        'missing',
        'never-contacted',
        'The logger has never been contacted',
        'Collect its record, or talk to a sensor',
      ),
    );
  } else if (!facts.lastContactFault && facts.now - facts.lastContact > contactEvery * day) {
    found.push(
      finding(
        'power and link',
        'displaced',
        'contact-old',
        `Last contact ${formatAge((facts.now - facts.lastContact) / 1000)} ago`,
        'Collect the record',
      ),
    );
  }
  for (const i of facts.installations)
    if (i.supply.atSensor < i.supply.low || i.supply.atSensor > i.supply.high)
      found.push(
        finding(
          'power and link',
          'displaced',
          'supply-outside',
          `${i.name}: ${formatValue(i.supply.atSensor, 1)} V at the sensor, it takes ${i.supply.low}–${i.supply.high} V`,
          'Measure the supply at the sensor’s end',
          ['multimeter'],
        ),
      );
  return found;
}

function wiringFindings(i: InstallationFacts): Finding[] {
  const found: Finding[] = [];
  if (i.leadsRecorded < i.leadsNeeded)
    found.push(
      finding(
        'wiring',
        'missing',
        'leads-unrecorded',
        `${i.name}: ${i.leadsRecorded} of ${i.leadsNeeded} leads recorded`,
        'Record which lead is on which terminal',
        ['wiring diagram'],
      ),
    );
  if (!i.lastTalk)
    found.push(
      finding(
        'wiring',
        'missing',
        'never-talked',
        `${i.name}: connected, not yet proved by talking to it`,
        'Talk to it under Connect',
      ),
    );
  else if (i.lastTalk.fault)
    found.push(
      finding(
        'wiring',
        'displaced',
        'talk-failed',
        `${i.name}: did not answer properly (${i.lastTalk.fault})`,
        'Wiring first, then serial parameters, then ID',
        ['multimeter', 'small screwdriver', 'wiring diagram'],
      ),
    );
  return found;
}

function settingFindings(c: ChannelFacts, now: number): Finding[] {
  const { everWritten, stagedAt, readBackDiffers } = c.settings;
  if (readBackDiffers)
    return [
      finding(
        'settings',
        'displaced',
        'read-back-differs',
        `${c.name}: the logger holds other settings than were written`,
        'Compare and write again',
        [],
        c.id,
      ),
    ];
  if (stagedAt !== null)
    return [
      finding(
        'settings',
        everWritten ? 'displaced' : 'missing',
        'staged',
        `${c.name}: settings staged ${formatAge((now - stagedAt) / 1000)} ago, not written`,
        'Write them to the logger',
        [],
        c.id,
      ),
    ];
  if (!everWritten)
    return [
      finding(
        'settings',
        'missing',
        'never-written',
        `${c.name}: no settings written yet`,
        'Stage and write its settings',
        [],
        c.id,
      ),
    ];
  return [];
}

function referenceFindings(c: ChannelFacts, now: number): Finding[] {
  const q = quantityOf(c.quantity);
  const bring = [`${q.name.toLowerCase()} reference, calibration in date`];
  const { last, found, openSince, every } = c.reference;
  const all: Finding[] = [];
  const decimals = Math.max(q.decimals, decimalsOf(0.1));
  if (last && (last.outcome === 'left-outside' || last.outcome === 'does-not-converge'))
    all.push(
      finding(
        'reference',
        'displaced',
        last.outcome === 'left-outside' ? 'beyond-tolerance' : 'does-not-converge',
        `${c.name}: ${formatDifference(last.difference, decimals)} ${q.unit} at the last check, ` +
          `agreement ends at ±${formatValue(last.limit, decimals)}` +
          (last.outcome === 'does-not-converge' ? ', and adjusting does not help' : ''),
        last.outcome === 'does-not-converge'
          ? 'Clean it, then swap in a sensor known to be good'
          : 'Check again and adjust',
        last.outcome === 'does-not-converge'
          ? [...bring, 'spare sensor known to be good', 'lint-free cloth']
          : bring,
        c.id,
      ),
    );
  if (openSince !== null)
    all.push(
      finding(
        'reference',
        'displaced',
        'check-open',
        `${c.name}: a check was begun ${formatAge((now - openSince) / 1000)} ago and not closed`,
        'Finish or abandon it',
        [],
        c.id,
      ),
    );
  if (!last)
    all.push(
      finding(
        'reference',
        'missing',
        'never-checked',
        `${c.name}: never checked against a reference`,
        'Check it',
        bring,
        c.id,
      ),
    );
  else if (now - last.at > every * day)
    all.push(
      finding(
        'reference',
        'displaced',
        'check-overdue',
        `${c.name}: last checked ${formatAge((now - last.at) / 1000)} ago, due every ${every} d`,
        'Check it',
        bring,
        c.id,
      ),
    );
  const outlook = last?.outcome === 'agree' ? driftOutlook(found, last.limit) : null;
  if (last && outlook && outlook.reachesLimitAt < now + driftHorizon * day)
    all.push(
      finding(
        'reference',
        'displaced',
        'drifting',
        `${c.name}: ${formatDifference(outlook.perDay * 30, decimals)} ${q.unit} a month over ${found.length} checks, ` +
          (outlook.reachesLimitAt <= now
            ? 'by that line already beyond'
            : `in about ${Math.round((outlook.reachesLimitAt - now) / day)} d beyond`) +
          ` ±${formatValue(last.limit, decimals)}`,
        'Check it before it leaves its tolerance',
        bring,
        c.id,
      ),
    );
  return all;
}

function recordFindings(facts: StationFacts): Finding[] {
  const found: Finding[] = [];
  if (facts.clock && Math.abs(facts.clock.difference) - facts.clock.uncertainty > clockTolerance)
    found.push(
      finding(
        'record',
        'displaced',
        'clock-off',
        `Logger clock ${formatAge(facts.clock.difference)} ${facts.clock.difference > 0 ? 'fast' : 'slow'}`,
        'Set it, and correct the drift in the stamps',
        ['watch set to UTC'],
      ),
    );
  for (const c of facts.channels.filter((x) => x.enabled)) {
    const { lastAt, storageInterval, flatSince, lastCollectedAt } = c.record;
    if (lastAt === null) {
      found.push(
        finding(
          'record',
          'missing',
          'never-collected',
          `${c.name}: nothing collected yet`,
          'Collect the record',
          [],
          c.id,
        ),
      );
      continue;
    }
    const silent = lastCollectedAt === null ? 0 : (lastCollectedAt - lastAt) / 1000;
    if (silent > Math.max(3 * storageInterval, 3600))
      found.push(
        finding(
          'record',
          'displaced',
          'record-stopped',
          `${c.name}: the logger stored nothing for ${formatAge(silent)} before the last collection`,
          'Look at power and the sensor',
          ['multimeter', 'spare sensor known to be good'],
          c.id,
        ),
      );
    if (flatSince !== null)
      found.push(
        finding(
          'record',
          'displaced',
          'stuck',
          `${c.name}: has not moved for ${formatAge((lastAt - flatSince) / 1000)}`,
          'Provoke it: warm, wet or shade it and watch',
          ['spare sensor known to be good'],
          c.id,
        ),
      );
  }
  return [...found, ...gapFindings(facts)];
}

/** Gaps; channels of one logger that share the same ones are said together. */
function gapFindings(facts: StationFacts): Finding[] {
  const alike = new Map<string, ChannelFacts[]>();
  for (const c of facts.channels.filter((x) => x.enabled && x.record.gaps.length > 0)) {
    const key = JSON.stringify(c.record.gaps);
    alike.set(key, [...(alike.get(key) ?? []), c]);
  }
  return [...alike.values()].map((channels) => {
    const [first] = channels;
    const { gaps } = first!.record;
    const missing = gaps.reduce((s, g) => s + g.missing, 0);
    const longest = formatAge(Math.max(...gaps.map((g) => g.until - g.from)));
    const who = channels.length > 1 ? `${channels.length} channels` : first!.name;
    return finding(
      'record',
      'displaced',
      'gap',
      `${who}: ${missing} readings${channels.length > 1 ? ' each' : ''} missing in the last 30 d, longest ${longest}`,
      'Find out why, and mark the span',
      [],
      first!.id,
    );
  });
}
