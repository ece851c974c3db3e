/** One line of the result: what was measured, against what, what was aimed at. */
export interface BenchLine {
  readonly what: string;
  readonly value: string;
  readonly against?: string;
  readonly ratio?: string;
  readonly aim?: string;
}

export const ms = (v: number): string =>
  v >= 10_000 ? `${(v / 1000).toFixed(1)} s` : `${v.toFixed(v < 100 ? 1 : 0)} ms`;

export function printTable(title: string, lines: readonly BenchLine[]): void {
  const head = { what: title, value: 'measured', against: 'against', ratio: 'ratio', aim: 'aim' };
  const rows = [head, ...lines.map((l) => ({ against: '', ratio: '', aim: '', ...l }))];
  const width = (key: keyof typeof head) => Math.max(...rows.map((r) => r[key].length));
  const keys = ['what', 'value', 'against', 'ratio', 'aim'] as const;
  for (const [i, r] of rows.entries()) {
    process.stdout.write(`${keys.map((k) => r[k].padEnd(width(k))).join('  ')}\n`);
    if (i === 0) process.stdout.write(`${keys.map((k) => '─'.repeat(width(k))).join('  ')}\n`);
  }
  process.stdout.write('\n');
}

/** Milliseconds a piece of work takes: the middle one of several runs. */
export async function middle(times: number, work: () => unknown): Promise<number> {
  const all: number[] = [];
  for (let i = 0; i < times; i++) {
    const began = performance.now();
    await work();
    all.push(performance.now() - began);
  }
  return all.sort((a, b) => a - b)[Math.floor(times / 2)]!;
}

/** The value below which a share of the runs lie. */
export const percentile = (all: readonly number[], share: number): number =>
  [...all].sort((a, b) => a - b)[Math.min(all.length - 1, Math.ceil(share * all.length) - 1)]!;
