import { driftOutlook } from '../check/drift';
import { decimalsOf, formatAge, formatDifference, formatValue } from '../quantity/format';
import { inSentence, quantityOf } from '../quantity/quantity';
import { ago, ahead, type Finding } from './finding';
import { loggerFindings } from './loggerFindings';
import { aboutChannel, finding, type About } from './newFinding';
import { openKinds, visitHours } from '../visit/openMatter';
import type { ChannelFacts, InstallationFacts, OpenFacts, StationFacts } from './stationFacts';

const day = 86_400_000;
/** A line that will leave its tolerance within this many days is worth saying. Our own choice. */
export const driftHorizon = 30;

/**
 * Every reason why a station needs someone, in no particular order: the only place that weighs. Cairn,
 * rank and the Verify word are views of this list. Pure: same facts, same findings.
 */
export function findingsOf(facts: StationFacts): Finding[] {
  const used = facts.channels.filter((c) => c.enabled);
  const logged = facts.channels.filter((c) => c.source === 'logger');
  const enabled = new Set(used.map((c) => c.id));
  const all = [
    ...facts.open.flatMap((o) => leftOpen(o, facts.stationId)),
    ...loggerFindings(facts, logged),
    ...facts.installations.flatMap(installationFindings),
    ...logged.flatMap(settingFindings),
    ...logged.filter((c) => c.enabled).flatMap(referenceFindings),
    ...used.flatMap((c) => recordFindings(c, facts)),
  ];
  // Nothing is expected of a channel that is switched off, whatever its logger or sensor does.
  return all.map((f) => ({ ...f, channels: f.channels.filter((id) => enabled.has(id)) }));
}

/**
 * What somebody left open when they went is first on the Round, with its age and their reason. Without a word
 * from anybody it is said once no visit can still be going on.
 */
function leftOpen(open: OpenFacts, stationId: string): Finding[] {
  const { says, stone, next, forgotten } = openKinds[open.kind];
  const about: About = { subject: { kind: 'station', id: stationId }, who: open.who, channels: [] };
  const { left } = open;
  if (!left && !forgotten) return [];
  const why = left
    ? `left open ${ago(left.at)} ago by ${left.by}${left.reason ? `: ${left.reason}` : ', found afterwards'}`
    : 'nobody said why';
  return [
    {
      ...finding(about, 'left-open', 'displaced', `${says} for ${ago(open.since)}; ${why}`, next, {
        from: left ? left.at : open.since + visitHours * 3_600_000,
      }),
      stone,
    },
  ];
}

function installationFindings(i: InstallationFacts): Finding[] {
  const about: About = { subject: { kind: 'installation', id: i.id }, who: i.name, channels: i.channelIds };
  if (i.profile)
    // Nothing else can be said of a sensor nobody knows.
    return [
      finding(
        about,
        'profile-missing',
        'displaced',
        `its profile ${i.profile} is not on file`,
        'Add that profile to the catalogue again',
      ),
    ];
  const found: Finding[] = [];
  const { atSensor, low, high } = i.supply;
  if (atSensor < low || atSensor > high)
    found.push(
      finding(
        about,
        'supply-outside',
        'displaced',
        `${formatValue(atSensor, 1)} V at the sensor, it takes ${low}–${high} V`,
        'Measure the supply at the sensor’s end',
        { bring: ['multimeter'] },
      ),
    );
  if (i.leadsRecorded < i.leadsNeeded)
    found.push(
      finding(
        about,
        'leads-unrecorded',
        'missing',
        `${i.leadsRecorded} of ${i.leadsNeeded} leads recorded`,
        'Record which lead is on which terminal',
        { bring: ['wiring diagram'] },
      ),
    );
  if (!i.lastTalk)
    found.push(
      finding(
        about,
        'never-talked',
        'missing',
        'connected, not yet proved by talking to it',
        'Talk to it under Connect',
      ),
    );
  else if (i.lastTalk.fault)
    found.push(
      finding(
        about,
        'talk-failed',
        'displaced',
        `did not answer properly (${i.lastTalk.fault})`,
        'Wiring first, then serial parameters, then ID',
        { bring: ['multimeter', 'small screwdriver', 'wiring diagram'] },
      ),
    );
  return found;
}

function settingFindings(c: ChannelFacts): Finding[] {
  const { everWritten, stagedAt, readBackDiffers } = c.settings;
  const about = aboutChannel(c);
  if (readBackDiffers)
    return [
      finding(
        about,
        'read-back-differs',
        'displaced',
        'the logger holds other settings than were written',
        'Compare and write again',
      ),
    ];
  if (stagedAt !== null)
    return [
      finding(
        about,
        'staged',
        everWritten ? 'displaced' : 'missing',
        `settings staged ${ago(stagedAt)} ago, not written`,
        'Write them to the logger',
      ),
    ];
  return everWritten
    ? []
    : [finding(about, 'never-written', 'missing', 'no settings written yet', 'Stage and write its settings')];
}

function referenceFindings(c: ChannelFacts): Finding[] {
  const q = quantityOf(c.quantity);
  const bring = [`${inSentence(q.code)} reference in date`];
  const { last, found, openSince, every, part, foundOff } = c.reference;
  const about = aboutChannel(c);
  const all: Finding[] = [];
  const d = Math.max(q.decimals, decimalsOf(0.1));
  if (last?.outcome === 'left-outside' || last?.outcome === 'does-not-converge') {
    const hopeless = last.outcome === 'does-not-converge';
    all.push(
      finding(
        about,
        hopeless ? 'does-not-converge' : 'beyond-tolerance',
        'displaced',
        `${formatDifference(last.difference, d)} ${q.unit} at the last check, ` +
          `agreement ends at ±${formatValue(last.limit, d)}${hopeless ? ', and adjusting does not help' : ''}`,
        hopeless ? 'Clean it, then swap in a sensor known to be good' : 'Check again and adjust',
        { bring: hopeless ? [...bring, 'spare sensor known to be good', 'lint-free cloth'] : bring },
      ),
    );
  }
  if (last && part && part.at > last.at)
    all.push(
      finding(
        about,
        'part-changed',
        'displaced',
        `another ${part.name} was put in ${ago(part.at)} ago, and it was not checked since`,
        'Check it with the new one',
        { bring },
      ),
    );
  if (last && foundOff) {
    const { unit, decimals } = quantityOf(foundOff.quantity);
    all.push(
      finding(
        about,
        'reference-off',
        'displaced',
        `last checked against ${foundOff.instrument}, found off by ${formatDifference(foundOff.by, decimals)} ${unit} since: with the truth that check says something else`,
        'Check it again, with another reference',
        { bring },
      ),
    );
  }
  if (openSince !== null)
    all.push(
      finding(
        about,
        'check-open',
        'displaced',
        `a check was begun ${ago(openSince)} ago and not closed`,
        'Finish or abandon it',
      ),
    );
  if (!last)
    all.push(
      finding(about, 'never-checked', 'missing', 'never checked against a reference', 'Check it', { bring }),
    );
  else
    all.push(
      finding(
        about,
        'check-overdue',
        'displaced',
        `last checked ${ago(last.at)} ago, due every ${every} d`,
        'Check it',
        { bring, from: last.at + every * day },
      ),
    );
  const outlook = last?.outcome === 'agree' && last.limit > 0 ? driftOutlook(found, last.limit) : null;
  if (last && outlook) {
    const line = `${formatDifference(outlook.perDay * 30, d)} ${q.unit} a month over ${outlook.checks} checks`;
    const drifting = (text: string, next: string, from: number, until: number) =>
      finding(about, 'drifting', 'displaced', `${line}, ${text} ±${formatValue(last.limit, d)}`, next, {
        bring,
        from,
        until,
      });
    const reaches = outlook.reachesLimitAt;
    all.push(
      drifting(
        `in about ${ahead(reaches)} beyond`,
        'Check it before it leaves its tolerance',
        reaches - driftHorizon * day,
        reaches,
      ),
      drifting('by that line already beyond', 'Check it, and adjust it if it is so', reaches, Infinity),
    );
  }
  return all;
}

function recordFindings(c: ChannelFacts, facts: StationFacts): Finding[] {
  const { lastAt, storageInterval, stuckSince, flagged, twin, gauge, gaps } = c.record;
  const lastCollectedAt = facts.logger?.lastCollectedAt ?? null;
  const about = aboutChannel(c);
  const q = quantityOf(c.quantity);
  const d = Math.max(q.decimals, decimalsOf(0.1));
  if (lastAt === null)
    return [
      finding(
        about,
        'never-collected',
        'missing',
        'nothing stored yet',
        {
          logger: 'Collect the record',
          file: 'Import its record',
          manual: 'Enter its readings',
          derived: 'Look at what it rests on',
        }[c.source],
      ),
    ];
  const found: Finding[] = [];
  const silent = c.source !== 'logger' || lastCollectedAt === null ? 0 : (lastCollectedAt - lastAt) / 1000;
  if (silent > Math.max(3 * storageInterval, 3600))
    found.push(
      finding(
        about,
        'record-stopped',
        'displaced',
        `stored nothing for ${formatAge(silent)} before the last collection`,
        'Look at power and the sensor',
        { bring: ['multimeter', 'spare sensor known to be good'], placeAt: lastAt },
      ),
    );
  if (stuckSince !== null)
    found.push(
      finding(
        about,
        'stuck',
        'displaced',
        `has not moved for ${formatAge((lastAt - stuckSince) / 1000)}`,
        'Provoke it: warm, wet or shade it and watch',
        { bring: ['spare sensor known to be good'], placeAt: stuckSince },
      ),
    );
  if (twin && Math.abs(twin.difference) > twin.limit)
    found.push(
      finding(
        about,
        'unlike-twin',
        'displaced',
        `${formatDifference(twin.difference, d)} ${q.unit} beside ${twin.name}, they should agree within ±${formatValue(twin.limit, d)}`,
        'Check both against one reference',
        { bring: [`${inSentence(q.code)} reference in date`] },
      ),
    );
  if (gauge && Math.abs(gauge.difference) > gauge.limit * (1 + 1e-9))
    found.push(
      finding(
        about,
        'unlike-gauge',
        'displaced',
        `${formatDifference(gauge.difference, d)} ${q.unit} beside ${gauge.name}, they should agree within ±${formatValue(gauge.limit, d)}`,
        'Read the gauge again; correct the record, or look at sensor and datum',
        { bring: ['tape'], placeAt: gauge.at },
      ),
    );
  for (const [code, n, word] of [
    ['values-failed', flagged.failed, 'failed'],
    ['values-suspect', flagged.suspect, 'suspect'],
  ] as const)
    if (n > 0)
      found.push(
        finding(
          about,
          code,
          'displaced',
          `${n} values ${word}: ${flagged.reason}`,
          'Look at them in the trace',
          { placeAt: flagged.at },
        ),
      );
  const missing = gaps.reduce((s, g) => s + g.missing, 0);
  if (missing > 0) {
    const longest = gaps.reduce((a, g) => (g.missing > a.missing ? g : a));
    found.push(
      finding(
        about,
        'gap',
        'displaced',
        `${missing} values missing in 30 d, longest ${formatAge(longest.until - longest.from)}`,
        'Find out why, and mark the span',
        { placeAt: longest.from * 1000 },
      ),
    );
  }
  return found;
}
