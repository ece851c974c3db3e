import type { AsFound } from '../bus/serviceLine';
import type { SerialSettings } from '../bus/serial';
import { serialToTry, usualSerial } from '../bus/usualSerial';
import { causes, type Cause } from './cause';
import { recover, remainingText, type Evidence, type RecoveryState } from './recovery';
import {
  recoverySteps,
  stepNames,
  type Heard,
  type RecoveryCase,
  type Results,
  type StepName,
} from './steps';

const line: SerialSettings = { baud: 19_200, dataBits: 8, parity: 'even', stopBits: 1 };
const delivered: SerialSettings = { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 };
const device: RecoveryCase = {
  busId: 3,
  serial: line,
  delivered,
  supply: { low: 9, high: 28 },
  others: [1, 2],
  setsSerial: true,
  anyId: 250,
  window: 8,
  light: 'green, steady',
};

/** A device with one or more things wrong, as our hands and ears would find it: written apart from the rules. */
interface World {
  readonly wrong: ReadonlySet<Exclude<Cause, 'dead'> | 'dead'>;
  readonly c: RecoveryCase;
}
const hears = ({ wrong }: World, at: 'line' | 'other', id: 'its' | 'other'): Heard => {
  for (const x of ['gateway', 'line', 'swapped', 'open', 'voltage', 'supply', 'protocol', 'dead'] as const)
    if (wrong.has(x)) return 'silence';
  if (wrong.has('serial') !== (at === 'other')) return 'silence';
  if (wrong.has('id') !== (id === 'other')) return 'silence';
  return wrong.has('duplicate') ? 'garbled' : 'answer';
};
const without = (w: World, ...gone: Cause[]): World => ({
  ...w,
  wrong: new Set([...w.wrong].filter((x) => !gone.includes(x))),
});
function look<N extends StepName>(w: World, step: N): Results[N] {
  const { wrong, c } = w;
  const mute = () => wrong.has('gateway') || wrong.has('line');
  const results: { [S in StepName]: () => Results[S] } = {
    reach: () => ({ reached: !wrong.has('gateway') }),
    ask: () => ({ heard: hears(w, 'line', 'its') }),
    others: () => ({
      asked: c.others.length,
      answered: wrong.has('gateway') || wrong.has('line') ? 0 : c.others.length,
    }),
    speeds: () => {
      const all = serialToTry(c.delivered, [c.serial]);
      return hears(w, 'other', 'its') === 'silence'
        ? { tried: all, at: null }
        : { tried: [all[0]!], at: all[0]! };
    },
    light: () => ({ light: wrong.has('supply') || wrong.has('dead') ? 'off' : 'on' }),
    idle: () => ({
      volts: wrong.has('voltage') ? 24 : wrong.has('open') ? 0.01 : wrong.has('swapped') ? -0.31 : 0.31,
    }),
    swap: () => {
      const other = wrong.has('swapped')
        ? without(w, 'swapped')
        : { ...w, wrong: new Set([...wrong, 'swapped' as const]) };
      return { heard: hears(other, 'line', 'its') };
    },
    supply: () => ({ volts: wrong.has('supply') ? 3.1 : 12 }),
    alone: () => ({ heard: hears(without(w, 'duplicate'), 'line', 'its') }),
    // Somebody nobody knows of hangs there, too.
    scan: () => ({
      from: 1,
      to: 247,
      found: mute() ? [] : hears(w, 'line', 'other') === 'silence' ? [4] : [4, 17],
    }),
    whose: () => ({ silent: hears(w, 'line', 'other') === 'silence' ? [] : [17] }),
    'any-id': () => {
      const heard = hears(without(w, 'duplicate', 'id'), 'line', 'its') === 'answer';
      return { id: heard ? (wrong.has('id') ? 17 : c.busId) : null };
    },
    service: () => {
      const deaf = (['gateway', 'line', 'swapped', 'open', 'voltage', 'supply', 'dead'] as const).some((x) =>
        wrong.has(x),
      );
      const found: AsFound = {
        model: 'quern-th4',
        serialNumber: 'TH4-1',
        firmware: '1.3',
        busId: wrong.has('id') ? 17 : c.busId,
        serial: wrong.has('serial') ? c.delivered : c.serial,
        protocol: wrong.has('protocol') ? 'text' : 'modbus',
      };
      return { found: deaf ? null : found };
    },
  };
  return results[step]();
}

/** Goes on as told until it answers or nothing is left, putting right what is found. */
function search(
  wrong: readonly Cause[],
  options: { c?: RecoveryCase; skip?: readonly StepName[]; blindIdle?: boolean } = {},
): { state: RecoveryState; mended: Cause[]; steps: string[] } {
  let w: World = { wrong: new Set(wrong), c: options.c ?? device };
  const evidence: Evidence[] = [];
  const mended: Cause[] = [];
  for (let i = 0; i < 60; i++) {
    const state = recover(w.c, evidence);
    const steps = evidence.map((e) => e.step);
    if (state.verdict === 'answers' || state.verdict === 'exhausted') return { state, mended, steps };
    if (state.found) {
      // What is found is really there.
      expect(w.wrong.has(state.found)).toBe(true);
      mended.push(state.found);
      w = without(w, state.found);
      evidence.push({ step: 'mended', result: { cause: state.found, heard: hears(w, 'line', 'its') } });
      continue;
    }
    const step = state.next!;
    const result = options.skip?.includes(step) ? null : look(w, step);
    evidence.push({ step, result } as Evidence);
  }
  throw new Error('it goes round in circles');
}

const findable = [
  'gateway',
  'serial',
  'swapped',
  'voltage',
  'supply',
  'duplicate',
  'id',
  'protocol',
] as const;

describe('one thing wrong', () => {
  test.each(findable)('%s is found and put right', (cause) => {
    const { state, mended } = search([cause]);
    expect(mended).toEqual([cause]);
    expect(state.verdict).toBe('answers');
  });
  test('a supply or mains on the data leads: stop is said, with the number', () => {
    const said = (step: 'idle' | 'supply', volts: number) => {
      const evidence: Evidence[] = [
        { step: 'ask', result: { heard: 'silence' } },
        { step, result: { volts } },
      ];
      return recover(device, evidence);
    };
    expect(said('idle', -24)).toMatchObject({ found: 'voltage' });
    expect(said('idle', 230).meanings[1]).toMatch(/^\+230\.00 V at rest: no driver gives more than 6 V/);
    expect(said('supply', 230).meanings[1]).toMatch(/Stop: isolate, prove dead, licensed people only/);
    expect(said('supply', 30).meanings[1]).not.toMatch(/Stop/);
  });
  test('nothing wrong: it answers when it is asked', () => {
    expect(search([]).steps).toEqual(['reach', 'ask']);
  });
  test('the whole line silent: found by the others, before anybody climbs to the device', () => {
    const { mended, steps } = search(['line']);
    expect(mended).toEqual(['line']);
    expect(steps.slice(0, 3)).toEqual(['reach', 'ask', 'others']);
  });
  test('a dead device, its light off: supply is measured, and only the device is left', () => {
    const { state, mended } = search(['dead']);
    expect(mended).toEqual([]);
    expect(state).toMatchObject({ verdict: 'exhausted', remaining: ['dead'] });
    expect(remainingText(state)).toMatch(/failed, or more than one thing/);
  });
  test('an open lead leaves the pair or the device, and says which measurement told nothing', () => {
    const { state } = search(['open']);
    expect(state).toMatchObject({ verdict: 'exhausted', remaining: ['open', 'dead'] });
    expect(state.meanings.join(' ')).toMatch(/\+0\.01 V at rest: too little to tell/);
  });
});

describe('silence alone tells nothing apart', () => {
  test('without anybody at the device, what remains is named', () => {
    const hands = stepNames.filter((n) => recoverySteps[n].by === 'person');
    for (const cause of ['swapped', 'supply', 'protocol'] as const) {
      const { state } = search([cause], { skip: hands });
      expect(state.verdict).toBe('exhausted');
      expect(state.remaining).toEqual(['swapped', 'open', 'voltage', 'supply', 'id', 'protocol', 'dead']);
    }
  });
  test.each([
    ['swapped', ['idle', 'swap']],
    ['supply', ['light', 'supply']],
    ['duplicate', ['alone']],
    ['protocol', ['service']],
  ] as const)('without the step that finds %s it stays among what remains', (cause, skip) => {
    const { state, mended } = search([cause], { skip });
    expect(mended).toEqual([]);
    expect(state.remaining).toContain(cause);
  });
  test('a meter that reads 0 V at rest is no verdict: the pair is swapped once', () => {
    const c = { ...device };
    let evidence: Evidence[] = [
      { step: 'reach', result: { reached: true } },
      { step: 'ask', result: { heard: 'silence' } },
      { step: 'others', result: { asked: 2, answered: 2 } },
      { step: 'speeds', result: { tried: serialToTry(delivered, [line]), at: null } },
      { step: 'light', result: { light: 'on' } },
      { step: 'idle', result: { volts: 0.05 } },
    ];
    expect(recover(c, evidence).next).toBe('swap');
    evidence = [...evidence, { step: 'swap', result: { heard: 'answer' } }];
    expect(recover(c, evidence)).toMatchObject({ verdict: 'found', found: 'swapped' });
  });
});

test('two things wrong at once: both are found, one after the other', () => {
  const pairs = findable.flatMap((a) => findable.filter((b) => a < b).map((b) => [a, b] as const));
  expect(pairs).toHaveLength(28);
  for (const pair of pairs) {
    const { state, mended } = search(pair);
    expect(state.verdict).toBe('answers');
    expect([...mended].sort()).toEqual([...pair].sort());
  }
});

test('what is found is never a cause that is not there, whatever is left out', () => {
  // The assertion stands in `search`; every single cause with every single step left out.
  for (const cause of causes) for (const skip of stepNames) search([cause], { skip: [skip] });
});

test('a gateway that is set by hand: one combination after the other, until none is left', () => {
  const c = { ...device, setsSerial: false };
  const all = serialToTry(delivered, [line]);
  const before: Evidence[] = [
    { step: 'reach', result: { reached: true } },
    { step: 'ask', result: { heard: 'silence' } },
    { step: 'others', result: { asked: 2, answered: 1 } },
  ];
  expect(recover(c, [...before, { step: 'speeds', result: { tried: [all[0]!], at: null } }]).next).toBe(
    'speeds',
  );
  expect(recover(c, [...before, { step: 'speeds', result: { tried: all, at: null } }]).next).toBe('light');
});

test('what a model has not is not asked for: no light, no window, no common ID', () => {
  const { state, steps } = search(['protocol'], { c: { ...device, light: null, window: null, anyId: null } });
  expect(steps).not.toEqual(expect.arrayContaining(['light']));
  expect(state.remaining).toEqual(['protocol', 'dead']);
});

test('likeliest first: as delivered, then the usual ones, none twice', () => {
  // MODBUS over Serial Line V1.02, 3.3 (from memory): 19 200 baud and even parity are the default.
  expect(usualSerial.slice(0, 2)).toEqual([delivered, line]);
  const all = serialToTry({ ...delivered, baud: 4800 }, [line]);
  expect(all[0]).toEqual({ ...delivered, baud: 4800 });
  expect(new Set(all.map((s) => JSON.stringify(s))).size).toBe(all.length);
  expect(all).not.toContainEqual(line);
});

describe('verified through its logger', () => {
  const answered: Evidence = { step: 'ask', result: { heard: 'answer' } };
  const looked = (shown: number, channels: number): Evidence => ({
    step: 'verified',
    result: { shown, channels },
  });
  const of = (...evidence: Evidence[]) => recover(device, evidence);
  test('only what was looked at since it answered counts, and only all of it', () => {
    expect(of(answered)).toMatchObject({ verdict: 'answers', verified: null });
    expect(of(answered, looked(2, 2))).toMatchObject({ verdict: 'answers', verified: true });
    expect(of(answered, looked(1, 2))).toMatchObject({ verdict: 'answers', verified: false });
    expect(of(answered, looked(0, 0)).verified).toBe(false);
    expect(of(looked(2, 2), answered).verified).toBeNull();
    // A logger that shows an old value says nothing of a silent device.
    expect(of({ step: 'ask', result: { heard: 'silence' } }, looked(2, 2))).toMatchObject({
      verdict: 'searching',
      verified: null,
    });
    expect(of(answered, looked(1, 2)).meanings[1]).toMatch(/^Its logger shows 1 of 2 channels/);
  });
});
