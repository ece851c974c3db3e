import { judgeSettling } from '@/core/check/settling';
import { projectFinal } from '@/core/check/projection';
import { pooledRepeatability } from '@/core/check/repeatability';
import { judgeTaken } from '@/core/check/taken';
import { sharesOfChecks, someCheck, someHumidityCheck } from '@/test/checks';
import { respond, responses, someResponse } from '@/test/response';
import { normal, uniform } from '@/test/simulate';

/** `node --import tsx scripts/judgementChecks.ts`: what a check claims, simulated, for docs/judgement.md. */
const say = (text: string) => process.stdout.write(`${text}\n`);
const percent = (share: number) => `${(100 * share).toFixed(1)} %`;

say('\nProjection: 1 500 responses each\n');
for (const kind of responses) {
  const random = uniform(7);
  let [said, inside] = [0, 0];
  for (let i = 0; i < 1500; i++) {
    const its = someResponse(random, kind);
    const { readings, truth } = respond(kind, random, its);
    const p = projectFinal(readings, its.resolution);
    if (!p) continue;
    said++;
    if (Math.abs(p.final - truth(readings.at(-1)!.t)) <= 2 * p.uncertainty) inside++;
  }
  say(`| ${kind} | ${percent(said / 1500)} | ${percent(inside / said)} |`);
}

say('\nSettled: 150 responses each\n');
for (const kind of responses) {
  const random = uniform(11);
  let [early, never, when] = [0, 0, 0];
  for (let i = 0; i < 150; i++) {
    const its = someResponse(random, kind);
    const rule = {
      window: 60,
      band: 0.25,
      resolution: its.resolution,
      response: its.tau / (0.6 + 0.9 * random()),
      placedAt: 0,
    };
    const { readings, truth } = respond(kind, random, { ...its, seconds: 11 * its.tau + 120 });
    const at = readings.findIndex(
      (_, n) => n > 20 && n % 5 === 0 && judgeSettling(readings.slice(0, n + 1), rule).state === 'settled',
    );
    if (at < 0) {
      never++;
      continue;
    }
    const { t, value } = readings[at]!;
    when += t / its.tau;
    if (Math.abs(value - truth(t)) > 0.5) early++;
  }
  say(
    `| ${kind} | ${percent(early / 150)} | ${percent(never / 150)} | ${(when / (150 - never)).toFixed(1)} τ |`,
  );
}

const runs = 10_000;
say('\nDecisions: 10 000 checks a row\n');
for (const school of ['gum', 'sum'] as const)
  for (const scatter of [0.1, 0.25]) {
    const random = uniform(3);
    const s = sharesOfChecks(random, someCheck(random, school, scatter), 1, runs);
    say(
      `| ${school} | ${scatter} | ${percent(s.accused)} | ${percent(s.atLimit)} | ${percent(s.caught)} | ${percent(s.undecided)} |`,
    );
  }
say('\nHumidity: 10 000 checks a row\n');
for (const humidity of [50, 80])
  for (const school of ['gum', 'sum'] as const)
    for (const direct of [true, false]) {
      const random = uniform(5);
      const s = sharesOfChecks(random, someHumidityCheck(random, school, humidity, direct), 3, runs);
      say(
        `| ${humidity} %RH | ${school} | ${direct ? 'as read' : 'brought'} | ${percent(s.accused)} | ${percent(s.caught)} |`,
      );
    }

say('\nHalf-applied offsets: 10 000 a row\n');
for (const checks of [0, 1, 2, 4, 8]) {
  const draw = normal(uniform(5));
  const set = (at: number) => [0, 1, 2].map(() => at + draw());
  let [found, accused] = [0, 0];
  for (let i = 0; i < runs; i++) {
    const earlier = pooledRepeatability(Array.from({ length: checks }, () => set(0)));
    if (judgeTaken(set(6), set(3), -6, earlier, 0)?.kind === 'otherwise') found++;
    if (judgeTaken(set(6), set(0), -6, earlier, 0)?.kind === 'otherwise') accused++;
  }
  say(`| ${checks} | ${percent(found / runs)} | ${percent(accused / runs)} |`);
}
