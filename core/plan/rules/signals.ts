import { convert } from '../../device/conversion';
import { outputInSentence, type SensorOutput } from '../../device/profile';
import { quantityOf } from '../../quantity/quantity';
import { isDifferential } from '../../device/channelInput';
import { connectionAs, deviceName, type DeviceUse, type LeadUse, type PlanContext } from '../context';
import { found, num, practice, rule } from '../rule';
import { excitationOf, rangeFor, shuntOf, signalVolts, sourceShare, type Analog } from '../signalVolts';
import { feederOf, supplies } from '../supply';

/** Signals against the inputs they come to. */
/** The analog input an output comes to, with its lead; null where it comes to none. */
function inputOf(d: DeviceUse, o: SensorOutput): { lead: LeadUse; analog: Analog } | null {
  const { field } = o;
  if (field.kind !== 'lead') return null;
  const lead = d.leads.find((l) => l.colour === field.lead);
  const analog = lead?.terminal?.terminal.abilities.find((a): a is Analog => a.does === 'analog');
  return lead && analog ? { lead, analog } : null;
}

const voltsOf = (d: DeviceUse) => signalVolts(d, shuntOf(d), excitationOf(d));

const perInput = (
  c: PlanContext,
  judge: (
    d: DeviceUse,
    o: SensorOutput,
    at: { lead: LeadUse; analog: Analog },
  ) => ReturnType<typeof found> | null,
) =>
  c.devices.flatMap((d) =>
    (d.sensor?.outputs ?? []).flatMap((o) => {
      const at = inputOf(d, o);
      const one = at && judge(d, o, at);
      return one ? [one] : [];
    }),
  );
const label = (at: { lead: LeadUse }) => at.lead.terminal!.terminal.label;

export const signalRange = rule({
  id: 'signal-over-range',
  title: 'Signal beyond the input',
  severity: 'fails',
  sum: 'one range of the input holds the signal from one end to the other, V',
  source: practice,
  judge: (c) =>
    perInput(c, (d, _o, at) => {
      const volts = voltsOf(d);
      if (!volts || rangeFor(at.analog, volts)) return null;
      const highest = Math.max(...at.analog.ranges.map((r) => r[1]));
      return found(
        `${deviceName(d)} gives ${num(volts[0])} to ${num(volts[1])} V, input ${label(at)} takes ${num(Math.min(...at.analog.ranges.map((r) => r[0])))} to ${num(highest)} V.`,
        'Use another input, a divider, or a smaller shunt.',
        { devices: [d.plan.id], terminals: [label(at)], sum: `${num(volts[1])} V > ${num(highest)} V` },
      );
    }),
});

export const resolution = rule({
  id: 'resolution',
  title: 'Input too coarse',
  severity: 'doubt',
  sum: 'width of the input range ÷ 2^bits × units per volt ≤ a quarter of the accuracy of the sensor',
  source: practice,
  judge: (c) =>
    perInput(c, (d, o, at) => {
      const volts = voltsOf(d);
      const range = volts && rangeFor(at.analog, volts);
      if (!volts || !range) return null;
      const step = (range[1] - range[0]) / 2 ** at.analog.bits;
      const perVolt = Math.abs((o.range[1] - o.range[0]) / (volts[1] - volts[0]));
      const achieved = step * perVolt;
      const limit =
        (o.accuracy.absolute +
          o.accuracy.ofReading * Math.abs((o.range[0] + o.range[1]) / 2) +
          o.accuracy.ofRange * (o.range[1] - o.range[0])) /
        4;
      const { unit } = quantityOf(o.quantity);
      return achieved <= limit
        ? null
        : found(
            `Input ${label(at)} resolves ${outputInSentence(o)} of ${deviceName(d)} to ${num(achieved)} ${unit}; a quarter of its accuracy is ${num(limit)} ${unit}.`,
            'Use an input of more bits or a smaller range.',
            {
              devices: [d.plan.id],
              terminals: [label(at)],
              sum: `${num(range[1] - range[0])} V ÷ 2^${at.analog.bits} × ${num(perVolt)} ${unit}/V = ${num(achieved)} ${unit} > ${num(limit)} ${unit}`,
            },
          );
    }),
});

export const sourceResistance = rule({
  id: 'source-resistance',
  title: 'Source too weak for the input',
  severity: 'fails',
  sum: 'source ÷ (source + input resistance) × reading at the top ≤ half the accuracy of the sensor',
  source: 'Kirchhoff (divider); the limit: common practice, no source',
  judge: (c) =>
    perInput(c, (d, o, at) => {
      const voltage = connectionAs(d, 'voltage');
      if (!voltage) return null;
      const share = sourceShare(d, at.analog);
      const top = Math.max(Math.abs(o.range[0]), Math.abs(o.range[1]));
      const limit =
        (o.accuracy.absolute + o.accuracy.ofReading * top + o.accuracy.ofRange * (o.range[1] - o.range[0])) /
        2;
      const { unit } = quantityOf(o.quantity);
      return share * top <= limit
        ? null
        : found(
            `${deviceName(d)} gives its voltage through ${num(voltage.sourceResistance)} Ω: input ${label(at)} would read ${num(share * 100)} % too low.`,
            'Put an amplifier of high input resistance between, or use an input of its own kind.',
            {
              devices: [d.plan.id],
              terminals: [label(at)],
              sum: `${num(voltage.sourceResistance)} ÷ (${num(voltage.sourceResistance)} + ${num(at.analog.inputResistance)}) × ${num(top)} = ${num(share * top)} ${unit} > ${num(limit)} ${unit}`,
            },
          );
    }),
});

export const differential = rule({
  id: 'input-differential',
  title: 'Differential signal on a single input',
  severity: 'fails',
  sum: 'both signal leads lie on the two terminals of one pair',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((d) => {
      if (!d.sensor || !isDifferential(d.sensor.connection)) return [];
      const plus = d.leads.find((l) => l.signal === 'signal+');
      const minus = d.leads.find((l) => l.signal === 'signal−');
      const pair = plus?.terminal?.terminal.abilities.find((a): a is Analog => a.does === 'analog')?.pair;
      if (!plus?.terminal || !minus?.terminal || pair === minus.terminal.terminal.label) return [];
      return [
        found(
          `${deviceName(d)} needs a pair: its ${minus.colour} lead is on ${minus.terminal.terminal.label}, the other half of ${plus.terminal.terminal.label} is ${pair ?? 'not there'}.`,
          pair ? `Land the ${minus.colour} lead on ${pair}.` : 'Use an input that has a pair.',
          {
            devices: [d.plan.id],
            terminals: [plus.terminal.terminal.label, minus.terminal.terminal.label],
          },
        ),
      ];
    }),
});

export const shunt = rule({
  id: 'current-without-shunt',
  title: 'Current without a shunt',
  severity: 'fails',
  sum: 'a current comes to a current input, or to a voltage input with a shunt',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((d) => {
      const lead = connectionAs(d, 'current') && d.leads.find((l) => l.signal === 'signal+');
      return !lead || !lead.terminal || shuntOf(d) !== null
        ? []
        : [
            found(
              `${deviceName(d)} gives 4–20 mA, input ${lead.terminal.terminal.label} reads volts and has no shunt.`,
              'Put a shunt across the input, or use a current input.',
              { devices: [d.plan.id], terminals: [lead.terminal.terminal.label] },
            ),
          ];
    }),
});

/** What a fault current may reach, A: above 21 mA by NAMUR NE 43, 22 mA as transmitters are specified. */
const loopCurrent = 0.022;

export const loopVoltage = rule({
  id: 'loop-voltage',
  title: 'Too little voltage in the loop',
  severity: 'fails',
  sum: 'supply − 22 mA × (leads out and back + shunt) ≥ the least the transmitter takes',
  source: 'Ohm; 22 mA: NAMUR NE 43 signals faults at 21 mA and above (from memory)',
  judge: (c) =>
    c.devices.flatMap((d) => {
      const current = connectionAs(d, 'current');
      const feeder = feederOf(d);
      if (!current?.loopPowered || !feeder) return [];
      const from = feeder.ability.volts ?? c.plan.supply.volts;
      const leads = (2 * d.plan.cable.metres * d.plan.cable.ohmsPerKm) / 1000;
      const ohms = shuntOf(d) ?? 0;
      const left = from - loopCurrent * (leads + ohms);
      return left >= current.least
        ? []
        : [
            found(
              `At full fault current ${left.toFixed(2)} V are left for ${deviceName(d)}, it takes ${current.least} V at least.`,
              'Use a higher supply, a smaller shunt, or a thicker cable.',
              {
                devices: [d.plan.id],
                terminals: [feeder.terminal.terminal.label],
                sum: `${num(from)} V − 22 mA × (${num(leads)} + ${num(ohms)}) Ω = ${left.toFixed(2)} V < ${current.least} V`,
              },
            ),
          ];
    }),
});

export const excitationMissing = rule({
  id: 'excitation-missing',
  title: 'Bridge without excitation',
  severity: 'fails',
  sum: 'a bridge or potentiometer gets an excitation',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((d) => {
      if (!connectionAs(d, 'half-bridge', 'full-bridge', 'potentiometer')) return [];
      const lead = d.leads.find((l) => l.signal === 'excitation');
      return !lead || lead.ability
        ? []
        : [
            found(
              `${deviceName(d)} is a bridge and its ${lead.colour} lead gets no excitation: it reads 0 V whatever it measures.`,
              'Land it on an excitation terminal.',
              { devices: [d.plan.id], terminals: lead.terminal ? [lead.terminal.terminal.label] : [] },
            ),
          ];
    }),
});

export const excitationHigh = rule({
  id: 'excitation-high',
  title: 'Excitation too high',
  severity: 'fails',
  sum: 'excitation ≤ the most the bridge takes, V',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((d) => {
      const bridge = connectionAs(d, 'half-bridge', 'full-bridge', 'potentiometer');
      const volts = excitationOf(d);
      return !bridge || volts === null || volts <= bridge.mostExcitation
        ? []
        : [
            found(
              `${deviceName(d)} takes ${bridge.mostExcitation} V of excitation, it gets ${num(volts)} V.`,
              'Use another excitation terminal.',
              { devices: [d.plan.id], sum: `${num(volts)} V > ${bridge.mostExcitation} V` },
            ),
          ];
    }),
});

export const leadError = rule({
  id: 'lead-error',
  title: 'Leads measured with the sensor',
  severity: 'doubt',
  sum: 'resistance out and back ÷ sensitivity in Ω per unit, at the middle of the range ≤ half the accuracy',
  source: 'IEC 60751 for platinum: 0.385 Ω/°C of 100 Ω; the limit: common practice, no source',
  judge: (c) =>
    c.devices.flatMap((d) => {
      const prt = connectionAs(d, 'prt');
      const thermistor = connectionAs(d, 'thermistor');
      const [o] = d.sensor?.outputs ?? [];
      if (!o || (!thermistor && prt?.wires !== 2)) return [];
      const middle = (o.range[0] + o.range[1]) / 2;
      const leads = (2 * d.plan.cable.metres * d.plan.cable.ohmsPerKm) / 1000;
      const at = (ohms: number) => convert(o.conversion, ohms);
      const ohms = prt
        ? prt.at0 * (1 + 0.0039083 * middle)
        : Math.sqrt(thermistor!.ohms[0] * thermistor!.ohms[1]);
      const error = Math.abs(at(ohms + leads) - at(ohms));
      const limit = (o.accuracy.absolute + o.accuracy.ofReading * Math.abs(middle)) / 2;
      const { unit } = quantityOf(o.quantity);
      return !(error > limit)
        ? []
        : [
            found(
              `The leads of ${deviceName(d)} are measured with it: ${num(leads)} Ω are ${num(error)} ${unit}.`,
              'Use three or four wires, a thicker or shorter cable, or a sensor of higher resistance.',
              {
                devices: [d.plan.id],
                sum: `2 × ${num(d.plan.cable.metres)} m × ${num(d.plan.cable.ohmsPerKm)} Ω/km = ${num(leads)} Ω → ${num(error)} ${unit} > ${num(limit)} ${unit}`,
              },
            ),
          ];
    }),
});

export const logicRange = rule({
  id: 'logic-over-range',
  title: 'Logic of another voltage',
  severity: 'fails',
  sum: 'logic of the sensor = logic of the pin, V',
  source: practice,
  judge: (c) => {
    const reach = supplies(c);
    return c.devices.flatMap((d) => {
      const digital = connectionAs(d, 'i2c', 'clocked');
      const logic = digital?.logic ?? d.board?.logic;
      if (logic === undefined) return [];
      // Open lines follow whoever pulls them up: a sensor of 3.3 V that is fed with 5 V is one of 5 V there.
      const fed = reach.get(d)?.from;
      const own = digital && fed !== undefined && digital.pullUp !== null ? Math.max(logic, fed) : logic;
      const pins = d.leads.flatMap((l) => {
        const a = l.ability;
        if (a?.does !== 'data' && a?.does !== 'clock') return [];
        const fits = own <= a.logic + 0.05 && own >= a.logic * 0.7;
        return fits ? [] : [{ label: l.terminal!.terminal.label, logic: a.logic }];
      });
      const [pin] = pins;
      if (!pin) return [];
      return [
        found(
          `${deviceName(d)} has ${num(own)} V logic, ${pins.length > 1 ? 'pins' : 'pin'} ${pins.map((x) => x.label).join(' and ')} ${num(pin.logic)} V.`,
          own > pin.logic
            ? 'Feed it with the voltage of the pin, or put a level shifter between: the pin may be destroyed.'
            : 'Put a level shifter between: the pin may not see its highs.',
          {
            devices: [d.plan.id],
            terminals: pins.map((x) => x.label),
            sum: `${num(own)} V ≠ ${num(pin.logic)} V`,
          },
        ),
      ];
    });
  },
});

export const clampScale = rule({
  id: 'clamp-scale',
  title: 'Scale set otherwise than the sensor',
  severity: 'fails',
  sum: 'recorded = true × full scale set ÷ full scale of the sensor',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((d) => {
      const o = d.sensor?.outputs[0];
      const set = d.plan.fullScale;
      if (!o || set === null || !d.sensor || !connectionAs(d, 'voltage', 'current')) return [];
      const ratio = set / o.range[1];
      const { unit } = quantityOf(o.quantity);
      return Math.abs(ratio - 1) < 0.001
        ? []
        : [
            found(
              `${deviceName(d)} reaches ${num(o.range[1])} ${unit}, the channel is set to ${num(set)} ${unit}: every value is recorded ${num(ratio)} times as large.`,
              `Set the channel to ${num(o.range[1])} ${unit}.`,
              {
                devices: [d.plan.id],
                sum: `true × ${num(set)} ÷ ${num(o.range[1])} = true × ${num(ratio)}`,
              },
            ),
          ];
    }),
});
