import { pooledRepeatability } from '@/core/check/repeatability';
import { judgeTaken } from '@/core/check/taken';
import { sharesOfChecks, someCheck, someHumidityCheck } from '@/test/checks';
import { coverageOf, responses, settledAt } from '@/test/response';
import { normal, uniform } from '@/test/simulate';

/** `node --import tsx scripts/judgementChecks.ts`: what a check claims, simulated, for docs/judgement.md. */
const say = (text: string) => process.stdout.write(`${text}\n`);
const percent = (share: number) => `${(100 * share).toFixed(1)} %`;

say('\nProjection: 1 500 responses each\n');
for (const kind of responses) {
  const { said, inside } = coverageOf(kind, 1500);
  say(`| ${kind} | ${percent(said / 1500)} | ${percent(inside / said)} |`);
}

say('\nSettled: 150 responses each\n');
for (const kind of responses) {
  const all = settledAt(kind, 150);
  const said = all.filter((s) => s !== null);
  const early = said.filter((s) => s.off > 0.5).length;
  const after = said.reduce((sum, s) => sum + s.after, 0) / said.length;
  say(`| ${kind} | ${percent(early / 150)} | ${percent(1 - said.length / 150)} | ${after.toFixed(1)} τ |`);
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

say('\nHalf-applied offsets: 10 000 a row; half found, full accused\n');
for (const checks of [0, 1, 2, 4, 8]) {
  const shares = [4, 6, 10].map((size) => {
    const draw = normal(uniform(5));
    const set = (at: number) => [0, 1, 2].map(() => at + draw());
    let [found, accused] = [0, 0];
    for (let i = 0; i < runs; i++) {
      const earlier = pooledRepeatability(Array.from({ length: checks }, () => set(0)));
      if (judgeTaken(set(size), set(size / 2), -size, earlier, 0)?.kind === 'otherwise') found++;
      if (judgeTaken(set(size), set(0), -size, earlier, 0)?.kind === 'otherwise') accused++;
    }
    return `${percent(found / runs)} | ${percent(accused / runs)}`;
  });
  say(`| ${checks} | ${shares.join(' | ')} |`);
}
