import fc from 'fast-check';
import { quantityCodes } from '../quantity/quantity';
import { cairnOf, findingKinds, holding, saidAt, stoneNames, urgencyOf, type FindingCode } from './finding';
import { findingsOf } from './findings';
import { standingAt, standingOverTime, urgencyOverTime } from './standing';
import type { ChannelFacts, StationFacts } from './stationFacts';

/** Facts of every kind, believable or not: what is said of them must agree with itself. */
const now = Date.UTC(2026, 2, 2, 10);
const day = 86_400_000;
const past = fc.integer({ min: 0, max: 400 * 24 }).map((hours) => now - hours * 3_600_000);
const maybe = <T>(of: fc.Arbitrary<T>) => fc.option(of, { nil: null });
const size = fc.double({ min: -9, max: 9, noNaN: true });

const channelFacts = (id: string): fc.Arbitrary<ChannelFacts> =>
  fc.record({
    id: fc.constant(id),
    name: fc.constant(`channel ${id}`),
    quantity: fc.constantFrom(...quantityCodes),
    enabled: fc.boolean(),
    source: fc.constantFrom('logger' as const, 'file' as const, 'derived' as const),
    settings: fc.record({ everWritten: fc.boolean(), stagedAt: maybe(past), readBackDiffers: fc.boolean() }),
    reference: fc.record({
      found: fc
        .array(fc.record({ at: past, difference: size }), { maxLength: 6 })
        .map((all) =>
          all
            .sort((a, b) => a.at - b.at)
            .map((f) => ({ ...f, reference: 'HX-771', referenceTolerance: 0.5 })),
        ),
      last: maybe(
        fc.record({
          at: past,
          difference: size,
          limit: fc.double({ min: 0.1, max: 4, noNaN: true }),
          outcome: fc.constantFrom(
            'agree' as const,
            'adjusted' as const,
            'left-outside' as const,
            'does-not-converge' as const,
          ),
        }),
      ),
      openSince: maybe(past),
      foundOff: maybe(
        fc.record({
          instrument: fc.constant('HX-771'),
          quantity: fc.constant('airTemperature' as const),
          by: fc.constantFrom(-0.4, 0.8),
        }),
      ),
      part: maybe(fc.record({ name: fc.constant('cap'), at: past })),
      every: fc.integer({ min: 1, max: 365 }),
    }),
    record: fc.record({
      lastAt: maybe(past),
      storageInterval: fc.constantFrom(60, 600, 3600, 86_400),
      gaps: fc.array(
        fc
          .integer({ min: 1, max: 50 })
          .map((missing) => ({ from: now / 1000, until: now / 1000 + 7200, missing })),
        { maxLength: 2 },
      ),
      flagged: fc.record({
        suspect: fc.integer({ min: 0, max: 2 }),
        failed: fc.integer({ min: 0, max: 145 }),
        at: maybe(past),
        reason: fc.constant('spike'),
      }),
      stuckSince: maybe(past),
      twin: maybe(fc.record({ difference: size, limit: fc.constant(2), name: fc.constant('its twin') })),
      gauge: maybe(
        fc.record({ at: past, difference: size, limit: fc.constant(0.015), name: fc.constant('RP1') }),
      ),
    }),
  });

const stationFacts: fc.Arbitrary<StationFacts> = fc.record({
  stationId: fc.constant('s'),
  open: fc.array(
    fc.record({
      kind: fc.constantFrom('leads-off' as const, 'check-open' as const),
      subject: fc.constant('i'),
      who: fc.constant('TH3-1'),
      since: past,
      left: maybe(fc.record({ at: past, by: fc.constant('IK'), reason: fc.constantFrom('', 'rain') })),
    }),
    { maxLength: 2 },
  ),
  logger: fc.record({
    id: fc.constant('l'),
    name: fc.constant('BR4'),
    lastContact: maybe(past),
    lastContactFault: maybe(fc.constant('no answer')),
    lastCollectedAt: maybe(past),
    openWrites: fc.array(
      fc.record({
        channelId: fc.constantFrom('a', null),
        unknownFrom: fc.constantFrom(-Infinity, now + 5000),
      }),
      { maxLength: 1 },
    ),
    clock: maybe(fc.record({ at: past, difference: fc.constantFrom(0, 90), uncertainty: fc.constant(1) })),
    launch: maybe(fc.record({ endsAt: past, what: fc.constantFrom('memory' as const, 'battery' as const) })),
    factoryLogIn: fc.boolean(),
    badFirmware: fc.constantFrom([], ['x']),
    unstored: fc.boolean(),
    own: fc.record({ stagedAt: maybe(past), readBackDiffers: fc.boolean() }),
    externals: fc.array(
      fc.record({
        terminal: fc.constant('PU'),
        activated: fc.boolean(),
        sensor: maybe(fc.constant('R2-0457')),
        channelIds: fc.constantFrom([], ['a']),
        someOn: fc.boolean(),
      }),
      { maxLength: 1 },
    ),
  }),
  installations: fc.array(
    fc.record({
      id: fc.constant('i'),
      name: fc.constant('TH3-1'),
      profile: fc.constantFrom(null, 'quern-th9 1'),
      leadsRecorded: fc.integer({ min: 0, max: 5 }),
      leadsNeeded: fc.constant(5),
      supply: fc.record({ atSensor: fc.constantFrom(8, 12), low: fc.constant(9), high: fc.constant(28) }),
      lastTalk: maybe(fc.record({ at: past, fault: maybe(fc.constant('crc')) })),
      channelIds: fc.constant(['a', 'b']),
    }),
    { maxLength: 1 },
  ),
  channels: fc.tuple(channelFacts('a'), channelFacts('b')).map((all) => [...all]),
});

test('a channel whose word is not good has a finding on the Round, and the other way round', () => {
  fc.assert(
    fc.property(stationFacts, fc.integer({ min: -30, max: 400 }), (facts, days) => {
      const at = now + days * day;
      const findings = findingsOf(facts);
      const onTheRound = holding(findings, at);
      for (const c of facts.channels) {
        const bearing = onTheRound.filter((f) => findingKinds[f.code].word && f.channels.includes(c.id));
        const { word, weight } = standingAt(findings, c, at);
        if (!c.enabled) expect(word).toBe('unused');
        else expect(word === 'good').toBe(bearing.length === 0);
        // The word is that of the heaviest of them, and the stop is at least as urgent.
        expect(weight).toBe(c.enabled ? Math.max(0, ...bearing.map((f) => f.weight)) : 0);
        expect(urgencyOf(onTheRound).heaviest).toBeGreaterThanOrEqual(weight);
      }
      // Whatever is said of a channel that is used makes its word, and displaces its stone.
      for (const f of onTheRound) {
        const channel = facts.channels.find((c) => c.id === f.subject.id);
        if (channel?.enabled) expect(standingAt(findings, channel, at).word).not.toBe('good');
        expect(cairnOf(onTheRound)[f.stone]).not.toBe('sound');
      }
    }),
    { numRuns: 600 },
  );
});

test('what is stored of all time says at each instant what is so then', () => {
  fc.assert(
    fc.property(stationFacts, fc.integer({ min: -500, max: 800 }), (facts, days) => {
      const at = now + days * day + 1;
      const findings = findingsOf(facts);
      for (const c of facts.channels) {
        const stretches = standingOverTime(findings, c);
        const holds = stretches.filter((s) => s.from <= at && at < s.until);
        expect(holds.map((s) => s.is)).toEqual([standingAt(findings, c, at)]);
        // No gap and no overlap between them.
        stretches.forEach((s, i) => expect(s.until).toBe(stretches[i + 1]?.from ?? Infinity));
        expect(stretches[0]!.from).toBe(-Infinity);
      }
      const urgency = urgencyOverTime(findings).filter((s) => s.from <= at && at < s.until);
      expect(urgency.map((s) => s.is)).toEqual([urgencyOf(holding(findings, at))]);
    }),
    { numRuns: 300 },
  );
});

test('every text is whole: a subject, what to do, no age left unsaid', () => {
  fc.assert(
    fc.property(stationFacts, (facts) => {
      for (const f of findingsOf(facts)) {
        expect(saidAt(f.text, now)).not.toMatch(/[{}]|undefined|NaN/);
        expect([f.who, f.next, f.text].every((t) => /\S/.test(t))).toBe(true);
        expect(stoneNames).toContain(f.stone);
        expect(f.from).toBeLessThan(f.until);
      }
    }),
  );
});

test('every kind of finding has a weight of its own stone and one scale', () => {
  for (const code of Object.keys(findingKinds) as FindingCode[]) {
    expect(findingKinds[code].weight).toBeGreaterThan(0);
    expect(findingKinds[code].weight).toBeLessThanOrEqual(100);
  }
});
