import { connectionAs, currentOf, deviceName, type PlanContext } from '../context';
import { batteryDays, energyOf, usable } from '../energy';
import { found, num, practice, rule } from '../rule';
import { feederOf, supplies } from '../supply';

/** Volts, amperes and watt-hours. */
const rangeOf = (d: PlanContext['devices'][number]) => d.sensor?.supply ?? d.board?.supply ?? null;

export const supplyLow = rule({
  id: 'supply-low',
  title: 'Too little voltage at the sensor',
  severity: 'fails',
  sum: 'supply − current × resistance out and back, shared runs with the currents of all on them ≥ the least it takes',
  source: 'Ohm; resistance of copper by ASTM B258 or IEC 60228 as typed',
  judge: (c) =>
    [...supplies(c)].flatMap(([d, { from, drop, sum }]) => {
      const range = rangeOf(d);
      return !range || from - drop >= range.low
        ? []
        : [
            found(
              `${(from - drop).toFixed(2)} V would reach ${deviceName(d)}, it takes ${range.low} V at least.`,
              'Use a higher supply, a shorter or a thicker cable, or fewer sensors on the run.',
              {
                devices: [d.plan.id],
                terminals: [feederOf(d)!.terminal.terminal.label],
                sum: `${sum} < ${range.low} V`,
              },
            ),
          ];
    }),
});

export const supplyHigh = rule({
  id: 'supply-high',
  title: 'Too much voltage for the sensor',
  severity: 'fails',
  sum: 'voltage of the terminal that feeds it, without any drop ≤ the most it takes',
  source: practice,
  judge: (c) =>
    [...supplies(c)].flatMap(([d, { from }]) => {
      const range = rangeOf(d);
      return !range || from <= range.high
        ? []
        : [
            found(
              `${deviceName(d)} takes ${range.high} V at most, its terminal gives ${num(from)} V.`,
              'Feed it from another terminal, or put a converter before it.',
              {
                devices: [d.plan.id],
                terminals: [feederOf(d)!.terminal.terminal.label],
                sum: `${num(from)} V > ${range.high} V`,
              },
            ),
          ];
    }),
});

export const supplyCurrent = rule({
  id: 'supply-current',
  title: 'Terminal feeds too much',
  severity: 'fails',
  sum: 'sum of the currents on a supply or excitation terminal ≤ what it gives',
  source: practice,
  judge: (c) =>
    [...c.terminals.values()].flatMap(({ terminal, leads }) => {
      const feeding = leads.filter((l) => l.ability?.does === 'supply' || l.ability?.does === 'excitation');
      const ability = feeding[0]?.ability;
      if (!ability || (ability.does !== 'supply' && ability.does !== 'excitation')) return [];
      const each = feeding.map((l) =>
        ability.does === 'excitation' ? excitationCurrent(l.device, ability.volts) : currentOf(l.device),
      );
      const total = each.reduce((a, b) => a + b, 0);
      return total <= ability.most
        ? []
        : [
            found(
              `Terminal ${terminal.label} gives ${num(ability.most * 1000)} mA, ${num(total * 1000)} mA are asked of it.`,
              'Spread the sensors over other terminals, or feed them from the source itself, fused.',
              {
                devices: feeding.map((l) => l.device.plan.id),
                terminals: [terminal.label],
                sum: `${each.map((a) => num(a * 1000)).join(' + ')} = ${num(total * 1000)} mA > ${num(ability.most * 1000)} mA`,
              },
            ),
          ];
    }),
});

/** What a bridge draws from its excitation at its least resistance, A. */
function excitationCurrent(d: PlanContext['devices'][number], volts: number): number {
  const half = connectionAs(d, 'half-bridge');
  if (half) return volts / (half.fixed.ohms + half.ohms[0]);
  const other = connectionAs(d, 'full-bridge', 'potentiometer');
  return other ? volts / other.ohms : currentOf(d);
}

export const sourceCurrent = rule({
  id: 'source-current',
  title: 'Source too weak',
  severity: 'fails',
  sum: 'all sensors at once + logger at work ≤ what the source gives',
  source: practice,
  judge: (c) => {
    const sensors = c.devices.reduce((sum, d) => sum + currentOf(d), 0);
    const own = c.logger?.works ?? 0;
    return sensors + own <= c.plan.supply.most
      ? []
      : [
          found(
            `All at once draw ${num((sensors + own) * 1000)} mA, the source gives ${num(c.plan.supply.most * 1000)} mA.`,
            'Use a stronger source, or measure in groups on switched terminals.',
            {
              sum: `${num(sensors * 1000)} + ${num(own * 1000)} = ${num((sensors + own) * 1000)} mA > ${num(c.plan.supply.most * 1000)} mA`,
            },
          ),
        ];
  },
});

export const loggerSupply = rule({
  id: 'logger-supply',
  title: 'Logger outside its supply',
  severity: 'fails',
  sum: 'least it takes ≤ supply ≤ most it takes',
  source: practice,
  judge: ({ logger, plan }) => {
    if (!logger) return [];
    const { low, high } = logger.supply;
    const { volts } = plan.supply;
    return volts >= low && volts <= high
      ? []
      : [
          found(
            `${logger.name} takes ${low}–${high} V, the supply is ${num(volts)} V.`,
            'Use another source.',
            {
              sum: `${num(volts)} V outside ${low}–${high} V`,
            },
          ),
        ];
  },
});

export const autonomy = rule({
  id: 'battery-autonomy',
  title: 'Battery empty too soon',
  severity: 'doubt',
  sum: 'Ah × V × 0.5 usable ÷ Wh a day ≥ the days wanted',
  source: practice,
  judge: (c) => {
    const energy = energyOf(c);
    const { batteryAh, volts, daysWanted } = c.plan.supply;
    const days = energy && batteryDays(energy.wattHours, c.plan);
    if (!energy || batteryAh === null || days === null) return [];
    return days >= daysWanted
      ? []
      : [
          found(
            `The battery lasts ${num(days)} days without sun, ${num(daysWanted)} are wanted.`,
            'Use a larger battery, measure less often, or switch sensors off between measurements.',
            {
              sum: `${energy.sum}; ${num(batteryAh)} Ah × ${num(volts)} V × ${usable} ÷ ${num(energy.wattHours)} Wh = ${num(days)} d < ${num(daysWanted)} d`,
            },
          ),
        ];
  },
});

/** Yield over use that carries a station through the darkest month. Common practice, no source. */
const solarMargin = 1.3;

export const solar = rule({
  id: 'solar-margin',
  title: 'Panel too small',
  severity: 'doubt',
  sum: 'Wh a day of the darkest month ÷ Wh a day used ≥ 1.3',
  source: practice,
  judge: (c) => {
    const energy = energyOf(c);
    const { solarWh } = c.plan.supply;
    if (!energy || solarWh === null) return [];
    const margin = solarWh / energy.wattHours;
    return margin >= solarMargin
      ? []
      : [
          found(
            `The panel yields ${num(margin)} times what is used; ${solarMargin} carry through dark weeks.`,
            'Use a larger panel, or less of what draws all day.',
            {
              sum: `${energy.sum}; ${num(solarWh)} ÷ ${num(energy.wattHours)} = ${num(margin)} < ${solarMargin}`,
            },
          ),
        ];
  },
});
