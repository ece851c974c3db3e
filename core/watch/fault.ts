import { formatAge, formatValue } from '../quantity/format';
import { quantityOf, type QuantityCode } from '../quantity/quantity';
import { limitFields, limitNames, limitsOutOfOrder, type Limits } from '../settings/limits';
import type { Seconds } from '../time';
import { channelsBeside, type WatchRule } from './rule';

/** What is wrong with a rule, or worth a second look: the field, the value, a sentence and what to do. */
export interface RuleFault {
  readonly field: string;
  readonly value: unknown;
  readonly says: string;
  readonly remedy: string;
}

/** What a rule is judged beside. */
export interface RuleGround {
  readonly channelId: string;
  readonly quantity: QuantityCode;
  /** Between which values its sensor can show anything, base unit; null where that is not known. */
  readonly sensorRange: readonly [low: number, high: number] | null;
  /** s between stored values; null where that is not known. */
  readonly interval: Seconds | null;
  /** How old values are when they arrive, s: the usual longest; null where none arrived yet. */
  readonly latency: Seconds | null;
  /** Other channels of the station, by id. */
  readonly others: ReadonlyMap<string, { readonly name: string; readonly quantity: QuantityCode }>;
}

const longest = 30 * 86_400;

/** What a rule cannot be; the first fault counts. Null where it may stand. */
export function ruleFault(rule: WatchRule, ground: RuleGround): RuleFault | null {
  const { limits, hysteresis } = rule;
  const q = quantityOf(ground.quantity);
  const show = (n: number) => `${formatValue(n, q.decimals)} ${q.unit}`;
  const fault = (field: string, value: unknown, says: string, remedy: string): RuleFault => ({
    field,
    value,
    says,
    remedy,
  });
  const set = limitFields.filter((f) => limits[f] !== null);
  if (set.length === 0 && !rule.rate && !rule.twin && rule.silentAfter === null)
    return fault('limits', null, 'Nothing is watched by this.', 'Set a limit, a rate, a twin or a silence.');
  const disorder = limitsOutOfOrder(limits);
  if (disorder) {
    const [a, b] = disorder;
    return fault(
      `limits.${b}`,
      limits[b],
      `${limitNames[b]}, ${show(limits[b]!)}, is not above ${limitNames[a].toLowerCase()}, ${show(limits[a]!)}.`,
      'Limits rise from far too low to far too high. Change one of the two.',
    );
  }
  const [least, most] = q.range;
  for (const f of set)
    if (limits[f]! < least || limits[f]! > most)
      return fault(
        `limits.${f}`,
        limits[f],
        `${q.name} does not reach ${show(limits[f]!)}: its values lie between ${show(least)} and ${show(most)}.`,
        `Look at the unit: limits are in ${q.unit} here.`,
      );
  if (ground.sensorRange)
    for (const f of set) {
      const beyond =
        f === 'low' || f === 'farLow'
          ? limits[f]! <= ground.sensorRange[0]
          : limits[f]! >= ground.sensorRange[1];
      if (beyond)
        return fault(
          `limits.${f}`,
          limits[f],
          `${limitNames[f]} at ${show(limits[f]!)} can never ring: the sensor shows ${show(ground.sensorRange[0])} to ${show(ground.sensorRange[1])}.`,
          'Set it inside of what the sensor can show.',
        );
    }
  if (!(hysteresis >= 0) || hysteresis === Infinity)
    return fault(
      'hysteresis',
      hysteresis,
      'A hysteresis is a distance: 0 or more.',
      `Write how far a value has to come back, in ${q.unit}.`,
    );
  const room = [limits.low ?? limits.farLow, limits.high ?? limits.farHigh];
  if (room[0] != null && room[1] != null && hysteresis >= room[1] - room[0])
    return fault(
      'hysteresis',
      hysteresis,
      `With a hysteresis of ${show(hysteresis)} a value would have to come back beyond the other limit: they are ${show(room[1] - room[0])} apart.`,
      'Choose a smaller hysteresis.',
    );
  for (const field of ['delay', 'returnDelay'] as const)
    if (!(rule[field] >= 0 && rule[field] <= longest))
      return fault(field, rule[field], 'A delay lies between 0 and 30 days.', 'Choose another.');
  if (!(rule.latest > 0 && rule.latest <= 366 * 86_400))
    return fault(
      'latest',
      rule.latest,
      'How old a value may be to ring lies between 1 s and a year.',
      'Choose another.',
    );
  const { interval } = ground;
  if (rule.silentAfter !== null) {
    if (!(rule.silentAfter > 0 && rule.silentAfter <= longest))
      return fault('silentAfter', rule.silentAfter, 'A silence lasts up to 30 days.', 'Choose another.');
    if (interval !== null && rule.silentAfter <= interval)
      return fault(
        'silentAfter',
        rule.silentAfter,
        `A value comes every ${formatAge(interval)}: a silence of ${formatAge(rule.silentAfter)} would ring between any two.`,
        `Choose more than ${formatAge(interval)}; two or three intervals are usual.`,
      );
  }
  if (rule.rate && !(rule.rate.by > 0 && rule.rate.within > 0 && rule.rate.within <= 86_400))
    return fault(
      'rate',
      rule.rate.by,
      'A rate is a move of more than 0 within up to a day.',
      'Change the move or its span.',
    );
  if (rule.rate && interval !== null && rule.rate.within < interval)
    return fault(
      'rate.within',
      rule.rate.within,
      `A value comes every ${formatAge(interval)}: within ${formatAge(rule.rate.within)} nothing can be seen to move.`,
      `Choose ${formatAge(interval)} or more.`,
    );
  if (rule.twin && !(rule.twin.tolerance > 0 && rule.twin.delay >= 0 && rule.twin.delay <= longest))
    return fault(
      'twin.tolerance',
      rule.twin.tolerance,
      'A twin may differ by more than 0.',
      'Change the tolerance.',
    );
  for (const id of channelsBeside(rule)) {
    const field = rule.gate?.channelId === id ? 'gate.channelId' : 'twin.channelId';
    if (id === ground.channelId)
      return fault(field, id, 'A channel cannot depend on itself here.', 'Choose another channel.');
    if (!ground.others.has(id))
      return fault(field, id, 'That channel is not one of this station.', 'Choose one that is.');
  }
  const twin = rule.twin && ground.others.get(rule.twin.channelId);
  if (twin && quantityOf(twin.quantity).unit !== q.unit)
    return fault(
      'twin.channelId',
      twin.name,
      `${twin.name} is in ${quantityOf(twin.quantity).unit}, this channel in ${q.unit}.`,
      'Choose a channel of the same quantity.',
    );
  if (rule.gate && !(rule.gate.hysteresis >= 0 && Number.isFinite(rule.gate.limit)))
    return fault('gate.hysteresis', rule.gate.hysteresis, 'A hysteresis is 0 or more.', 'Choose another.');
  const { hours } = rule;
  if (hours && (hours.months?.length === 0 || hours.weekdays?.length === 0))
    return fault(
      'hours',
      null,
      'It would never count: no month or no day is chosen.',
      'Choose at least one.',
    );
  return null;
}

/**
 * What is worth a second look in a rule that may stand: that it would never ring as values arrive, that the
 * logger has other limits, that a value may be old before anybody hears of it.
 *
 * @param loggers limits as the logger has them, base unit; null where none were written
 */
export function ruleDoubts(rule: WatchRule, ground: RuleGround, loggers: Limits | null): string[] {
  const q = quantityOf(ground.quantity);
  const show = (n: number | null) => (n === null ? 'none' : formatValue(n, q.decimals));
  const { latency, interval } = ground;
  const said: string[] = [];
  if (latency === null) said.push('No value has arrived yet: when it would ring is not known.');
  else if (latency > rule.latest)
    said.push(
      `It would not ring as values arrive now: they are up to ${formatAge(latency)} old by then, and one older than ${formatAge(rule.latest)} does not ring. Have the record collected more often.`,
    );
  else if (latency > 2 * (interval ?? 0))
    said.push(`Values are up to ${formatAge(latency)} old when they arrive: it rings so much later.`);
  if (rule.silentAfter !== null && latency !== null && rule.silentAfter < latency)
    said.push(
      `A silence of ${formatAge(rule.silentAfter)} rings before each collection: values are up to ${formatAge(latency)} old when they arrive.`,
    );
  const other = limitFields.filter((f) => (loggers?.[f] ?? null) !== rule.limits[f]);
  if (loggers && limitFields.some((f) => loggers[f] !== null) && other.length > 0)
    said.push(
      `The logger has other limits: ${other.map((f) => `${limitNames[f].toLowerCase()} ${show(loggers[f])} there, ${show(rule.limits[f])} here`).join('; ')}.`,
    );
  return said;
}
