import { quantityOf } from '../../quantity/quantity';
import { confusable } from '../../wiring/leadColour';
import { connectionAs, deviceName } from '../context';
import { memoryOf, storedChannels } from '../endurance';
import { found, num, practice, rule } from '../rule';

/** Where sensors stand, what their pulses mean, how long the memory lasts. */
export const height = rule({
  id: 'mounting-height',
  title: 'Mounted too high or too low',
  severity: 'doubt',
  sum: 'lowest height of the profile ≤ height planned ≤ highest',
  source: practice,
  judge: ({ devices }) =>
    devices.flatMap((d) => {
      const range = d.sensor?.placing.height;
      const at = d.plan.height;
      return !range || at === null || (at >= range[0] && at <= range[1])
        ? []
        : [
            found(
              `${deviceName(d)} is to hang at ${num(at)} m; its profile wants ${num(range[0])} to ${num(range[1])} m.`,
              'Move it, or accept it with the reason: what is watched may be there.',
              { devices: [d.plan.id], sum: `${num(at)} m outside ${num(range[0])}–${num(range[1])} m` },
            ),
          ];
    }),
});

export const tooNear = rule({
  id: 'too-near',
  title: 'Too near to what disturbs it',
  severity: 'doubt',
  sum: 'distance to a motor, inverter, high voltage, heater … ≥ what the profile asks for',
  source: practice,
  judge: ({ devices }) =>
    devices.flatMap((d) =>
      d.plan.near.flatMap(({ of, metres }) => {
        const least = d.sensor?.placing.clearOf.find((x) => x.of === of)?.metres;
        return least === undefined || metres >= least
          ? []
          : [
              found(
                `${deviceName(d)} is ${num(metres)} m from ${of === 'inverter' || of === 'inlet' ? 'an' : of === 'high voltage' ? '' : 'a'} ${of}; its profile asks for ${num(least)} m.`.replace(
                  /  +/g,
                  ' ',
                ),
                'Move it or its cable, or accept it with the reason.',
                { devices: [d.plan.id], sum: `${num(metres)} m < ${num(least)} m` },
              ),
            ];
      }),
    ),
});

export const tilted = rule({
  id: 'tilted',
  title: 'Tilted',
  severity: 'doubt',
  sum: 'angle from the vertical ≤ what the profile allows',
  source: practice,
  judge: ({ devices }) =>
    devices.flatMap((d) => {
      const most = d.sensor?.placing.tilt;
      return most === undefined || most === null || d.plan.tilt === null || d.plan.tilt <= most
        ? []
        : [
            found(
              `${deviceName(d)} is tilted by ${num(d.plan.tilt)}°, ${num(most)}° are allowed.`,
              'Level it.',
              {
                devices: [d.plan.id],
                sum: `${num(d.plan.tilt)}° > ${num(most)}°`,
              },
            ),
          ];
    }),
});

/** m apart, for a pair to tell a gradient from a fault. Common practice, no source. */
const apart = 0.3;

export const redundancy = rule({
  id: 'redundancy-height',
  title: 'Pair at one height',
  severity: 'hint',
  sum: 'heights of two sensors of one quantity under one name differ by 0.3 m or more',
  source: practice,
  judge: ({ devices }) => {
    const by = new Map<string, (typeof devices)[number][]>();
    for (const d of devices)
      for (const o of d.sensor?.outputs ?? []) {
        const key = `${o.quantity} ${d.plan.name}`;
        const there = by.get(key);
        if (there) there.push(d);
        else by.set(key, [d]);
      }
    return [...by].flatMap(([key, all]) => {
      const [a, b] = all;
      if (!a || !b || a === b || a.plan.height === null || b.plan.height === null) return [];
      const between = Math.abs(a.plan.height - b.plan.height);
      return between >= apart
        ? []
        : [
            found(
              `Two sensors watch ${quantityOf(key.split(' ')[0] as never).name.toLowerCase()} of ${a.plan.name}, ${num(between)} m apart: what spoils one spoils both.`,
              'Hang them at two heights: it tells a gradient from a fault.',
              { devices: [a.plan.id, b.plan.id], sum: `${num(between)} m < ${apart} m` },
            ),
          ];
    });
  },
});

export const rainResolution = rule({
  id: 'pulse-resolution',
  title: 'Pulse set otherwise than the mechanics',
  severity: 'fails',
  sum: 'recorded = true × resolution set ÷ resolution of the mechanics, a reducing ring counted',
  source: practice,
  judge: ({ devices }) =>
    devices.flatMap((d) => {
      const pulse = connectionAs(d, 'pulse');
      const o = d.sensor?.outputs[0];
      if (!pulse || !o) return [];
      const ring = d.accessories.find((a) => a.does.as === 'reducing-ring')?.does;
      const mechanics = ring?.as === 'reducing-ring' ? ring.perPulse : pulse.perPulse;
      const set = d.plan.perPulse ?? pulse.perPulse;
      const ratio = set / mechanics;
      const { unit } = quantityOf(o.quantity);
      return Math.abs(ratio - 1) < 0.001
        ? []
        : [
            found(
              `${deviceName(d)} gives a pulse every ${num(mechanics)} ${unit}${ring ? ' with its ring' : ''}, ${num(set)} ${unit} are set: every total is recorded ${num(ratio)} times as large.`,
              `Set ${num(mechanics)} ${unit} a pulse.`,
              { devices: [d.plan.id], sum: `true × ${num(set)} ÷ ${num(mechanics)} = true × ${num(ratio)}` },
            ),
          ];
    }),
});

export const pulseInput = rule({
  id: 'pulse-input',
  title: 'Pulses the input does not take',
  severity: 'fails',
  sum: 'kind of pulse is one the input takes; most pulses in a second ≤ what it counts',
  source: practice,
  judge: ({ devices }) =>
    devices.flatMap((d) => {
      const pulse = connectionAs(d, 'pulse');
      const lead = d.leads.find((l) => l.signal === 'pulse');
      if (!pulse || lead?.ability?.does !== 'pulse') return [];
      const { takes, mostHz } = lead.ability;
      const label = lead.terminal!.terminal.label;
      if (!takes.includes(pulse.gives))
        return [
          found(
            `${deviceName(d)} gives ${pulse.gives.replace('-', ' ')}, input ${label} takes ${takes.join(', ')}.`,
            'Use another input, or a converter between.',
            { devices: [d.plan.id], terminals: [label] },
          ),
        ];
      return pulse.mostHz <= mostHz
        ? []
        : [
            found(
              `${deviceName(d)} gives up to ${num(pulse.mostHz)} pulses a second, input ${label} counts ${num(mostHz)}.`,
              'Use a faster input.',
              {
                devices: [d.plan.id],
                terminals: [label],
                sum: `${num(pulse.mostHz)} Hz > ${num(mostHz)} Hz`,
              },
            ),
          ];
    }),
});

export const memory = rule({
  id: 'memory-days',
  title: 'Memory full before the next visit',
  severity: 'doubt',
  sum: 'readings it keeps ÷ channels × storage interval ≥ days between visits',
  source: practice,
  judge: ({ logger, plan: { storeEvery, visitEvery }, devices }) => {
    const channels = storedChannels({ devices });
    const memory = memoryOf({ logger }, channels, storeEvery);
    if (memory === null || memory.days >= visitEvery) return [];
    return [
      found(
        `${channels} channels every ${num(storeEvery)} s fill the memory in ${num(memory.days)} days; the next visit is after ${num(visitEvery)}.`,
        'Store less often, switch channels off, or come earlier.',
        {
          sum: `${memory.sum} < ${num(visitEvery)} d`,
        },
      ),
    ];
  },
});

export const leadsAlike = rule({
  id: 'leads-alike',
  title: 'Leads that look alike in poor light',
  severity: 'hint',
  sum: 'colour distance (CIEDE2000) under a dim warm lamp ≥ 13',
  source: 'CIE 142-2001 for the distance; the lamp and the limit: our own choice',
  judge: ({ devices }) =>
    devices.flatMap((d) => {
      const pairs = confusable(d.leads.map((l) => l.colour));
      return pairs.length === 0
        ? []
        : [
            found(
              `${deviceName(d)}: ${pairs.map((p) => `${p.a} and ${p.b}`).join(', ')} look alike in poor light.`,
              'Mark one of them with tape before the cable is fed through, and photograph the terminals.',
              {
                devices: [d.plan.id],
                sum: pairs.map((p) => `${p.a}/${p.b}: ${num(p.distance)}`).join(', '),
              },
            ),
          ];
    }),
});
