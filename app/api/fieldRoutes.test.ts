import path from 'node:path';
import type Joi from 'joi';
import { fieldWriteAddress, fieldWrites } from '@/contract/fieldWrites';
import { routeFiles } from '@/test/routeFiles';

/**
 * Writes of something a person did at a moment of their own, and why each cannot wait for a signal. A route
 * that takes `occurredAt` is either declared among the field writes or stands here.
 */
const station = 'v1/stations/[stationId]';
const needsTheServer: Readonly<Record<string, string>> = {
  [`POST ${station}/transmitters`]: 'whether the line carries it is reckoned there',
  [`POST ${station}/installations/[installationId]/swap`]: 'whether the line carries it is reckoned there',
  [`POST ${station}/installations/[installationId]/take-out`]: 'what it feeds is asked there',
  [`POST ${station}/checks`]: 'the instrument, the channel and the tolerances in force are asked there',
  [`POST ${station}/checks/[checkId]/close`]: 'the verdict is the server’s',
  [`POST ${station}/checks/[checkId]/adjustments`]: 'the logger is told',
  [`POST ${station}/checks/[checkId]/undo`]: 'the logger is told',
  [`POST ${station}/direct`]: 'what a line said is judged there',
  [`POST ${station}/handheld-readings`]: 'whether a reading waits for a site still is asked there',
  'POST v1/kit/instruments/[instrumentId]/calibrations': 'a certificate is read at the desk',
  'POST v1/kit/instruments/[instrumentId]/care': 'written down once, at the desk',
  'POST v1/kit/instruments/[instrumentId]/cross-checks': 'two instruments are compared where the kit lies',
  'POST v1/kit/instruments/[instrumentId]/findings': 'which checks it touches is reckoned there',
  [`POST ${station}/visits/[visitId]/sign`]: 'what is signed is the page as the server has it',
};

interface Asks {
  schema: Joi.ObjectSchema;
  field: boolean;
}
const handlers = async () => {
  const found: [string, Asks][] = [];
  for (const { path: at, methods } of routeFiles()) {
    // Any route by its path.
    // eslint-disable-next-line no-restricted-syntax
    const route = (await import(path.join(process.cwd(), 'app/api', at, 'route.ts'))) as Record<
      string,
      { asks?: Asks }
    >;
    for (const method of methods) {
      const asks = route[method]?.asks;
      if (asks) found.push([`${method} ${at}`, asks]);
    }
  }
  return found;
};
const takesAMoment = ({ schema }: Asks): boolean =>
  Object.hasOwn((schema.describe() as { keys?: object }).keys ?? {}, 'occurredAt');

test('a write of something done at a moment of one’s own is a declared field write, or says why it needs the server', async () => {
  const all = await handlers();
  expect(all.length).toBeGreaterThan(50);
  expect(
    all
      .filter(([name, asks]) => takesAMoment(asks) && !asks.field && !needsTheServer[name])
      .map(([name]) => name),
  ).toEqual([]);
  const names = new Set(all.map(([name]) => name));
  expect(Object.keys(needsTheServer).filter((name) => !names.has(name))).toEqual([]);
});

test('every declaration has its route, which takes it; no route takes what is not declared', async () => {
  const taken = (await handlers()).filter(([, asks]) => asks.field);
  const declared = Object.values(fieldWrites).map((w) => [`${w.method} ${w.path}`, w.schema] as const);
  expect(taken.map(([name]) => name).sort()).toEqual(declared.map(([name]) => name).sort());
  for (const [name, schema] of declared) expect(taken.find(([n]) => n === name)![1].schema).toBe(schema);
});

test('every field write says when it was done, and its address is whole', () => {
  for (const write of Object.values(fieldWrites)) {
    expect(takesAMoment({ schema: write.schema as Joi.ObjectSchema, field: true })).toBe(true);
    const names = [...write.path.matchAll(/\[(\w+)\]/g)].map((m) => m[1]!);
    expect(fieldWriteAddress(write, Object.fromEntries(names.map((n) => [n, 'x'])))).not.toMatch(/[[\]]/);
  }
});
