import { driftOutlook } from '@/core/check/drift';
import { runTests } from '@/core/quality/runTests';
import { stuckSince } from '@/core/quality/stuck';
import { completed } from '@/core/quality/thresholds';
import { findGaps } from '@/core/series/gaps';
import { checkHistory, hourCounts, uniform } from '@/test/simulate';

/** Prints the tables of docs/judgement.md: what the judgement claims, on histories whose truth is known. `node --import tsx scripts/judgement.ts` */
const say = (text: string) => process.stdout.write(`${text}\n`);
const percent = (share: number) => `${(100 * share).toFixed(1)} %`;

say('Gaps: thirty days, any phase, 20 histories each\n');
for (const interval of [60, 300, 480, 600, 900, 2700, 3600, 7200, 10_800, 86_400]) {
  const random = uniform(interval);
  let [invented, lost, found] = [0, 0, 0];
  for (let i = 0; i < 20; i++) {
    const of = (share: number) => {
      const { counts, missing, last } = hourCounts(random, { interval, hours: 720, lost: share });
      const dueAt = () => ({ interval, phase: last % interval });
      const gaps = findGaps(counts, 3600, 719 * 3600, 3600, dueAt);
      return { missing, found: gaps.reduce((s, g) => s + g.missing, 0) };
    };
    invented += of(0).found;
    const some = of(0.1);
    lost += some.missing;
    found += some.found;
  }
  say(`| ${interval} s | ${invented / 20} | ${percent(found / Math.max(1, lost))} |`);
}

say('\nDrift alarms: 4 000 histories each, 45 days apart\n');
for (const checks of [2, 3, 4, 5, 6]) {
  const share = (perDay: number, scatter = 1 / 3) => {
    const random = uniform(checks * 1000 + Math.round(perDay * 1e4));
    let n = 0;
    for (let i = 0; i < 4000; i++)
      if (driftOutlook(checkHistory(random, { checks, apart: 45, perDay, scatter }), 1)) n++;
    return percent(n / 4000);
  };
  say(`| ${checks} | ${share(0)} | ${share(1 / 240)} | ${share(1 / 120)} |`);
}

say('\nStuck alarms: 200 histories of five days each\n');
for (const interval of [60, 480, 600, 2700, 7200]) {
  const random = uniform(interval);
  const n = Math.ceil((5 * 86_400) / interval);
  const flat = { eps: 0.05, suspectHours: 12, failHours: 24 };
  const share = (value: (t: number, before: number) => number) => {
    let stuck = 0;
    for (let i = 0; i < 200; i++) {
      const times = Float64Array.from({ length: n }, (_, k) => k * interval);
      let v = 60;
      const values = times.map((t) => (v = value(t, v)));
      const spans = runTests({ times, values }, 'humidity', completed({ flat }), interval);
      if (
        stuckSince(
          spans.map((s) => ({ ...s, suspectHours: 12 })),
          times[n - 1]!,
          interval,
        ) !== null
      )
        stuck++;
    }
    return percent(stuck / 200);
  };
  const weather = (t: number) => 60 + 8 * Math.sin(t / 13_000) + random() - 0.5;
  say(
    `| ${interval} s | ${share(weather)} | ${share((t) => (t > 3 * 86_400 ? 100 : weather(t)))} | ${share((t, before) => (t > 3 * 86_400 ? before : weather(t)))} |`,
  );
}
