import { formatAge, formatDifference, formatValue } from '../quantity/format';
import { quantityOf, type QuantityCode } from '../quantity/quantity';
import { limitFields, type Limits } from '../settings/limits';
import type { Milliseconds } from '../time';
import { fieldOfLevel, levelNames, levelsOfLimits, type Cause, type Level, type WatchRule } from './rule';

/** The limit of a level; null for none, and for within. */
export const limitOfLevel = (limits: Limits, level: Level): number | null => {
  const field = fieldOfLevel(level);
  return field && limits[field];
};

/**
 * What an alarm says of its channel, without the channel's name: "too high, 74.2 %RH (limit 72.0)".
 *
 * @param at stamps in ms: of the value it rang with; of a silence the newest one
 */
export function alarmSays(
  alarm: {
    readonly cause: Cause;
    readonly level: Level;
    readonly value: number | null;
    readonly at: Milliseconds;
  },
  quantity: QuantityCode,
  rule: WatchRule | null,
): string {
  const { unit, decimals } = quantityOf(quantity);
  const { value } = alarm;
  if (alarm.cause === 'silent')
    return `no value${rule?.silentAfter ? ` for ${formatAge(rule.silentAfter)}` : ''}: the newest is stamped ${new Date(alarm.at).toISOString().slice(0, 16).replace('T', ' ')} UTC`;
  const moved = value === null ? '–' : `${formatDifference(value, decimals)} ${unit}`;
  if (alarm.cause === 'rate')
    return `moves too fast, ${moved}${rule?.rate ? ` within ${formatAge(rule.rate.within)}` : ''}`;
  if (alarm.cause === 'twin')
    return `differs from its twin by ${moved}${rule?.twin ? ` (limit ±${formatValue(rule.twin.tolerance, decimals)})` : ''}`;
  const limit = rule && limitOfLevel(rule.limits, alarm.level);
  return `${levelNames[alarm.level]}, ${value === null ? '–' : formatValue(value, decimals)} ${unit}${limit === null ? '' : ` (limit ${formatValue(limit, decimals)})`}`;
}

/** What alarms of a cause are called in a list. */
export const causeNames: Readonly<Record<Cause, string>> = {
  limits: 'Beyond a limit',
  rate: 'Moves too fast',
  twin: 'Unlike its twin',
  silent: 'No value',
};

/** A rule in a line, for the field book: what it watches and how. */
export function ruleSays(rule: WatchRule, quantity: QuantityCode): string {
  const { unit, decimals } = quantityOf(quantity);
  const show = (n: number) => formatValue(n, decimals);
  const limits = limitFields.flatMap((f, i) =>
    rule.limits[f] === null
      ? []
      : [
          `${levelNames[levelsOfLimits[i]!]} ${f === 'low' || f === 'farLow' ? '<' : '>'} ${show(rule.limits[f])}`,
        ],
  );
  return [
    limits.length > 0 && `${limits.join(', ')} ${unit}, back by ${show(rule.hysteresis)}`,
    rule.delay > 0 && `after ${formatAge(rule.delay)}`,
    rule.returnDelay > 0 && `over after ${formatAge(rule.returnDelay)}`,
    rule.rate && `moves by ${show(rule.rate.by)} ${unit} within ${formatAge(rule.rate.within)}`,
    rule.twin && `parts from its twin by ${show(rule.twin.tolerance)} ${unit}`,
    rule.silentAfter !== null && `no value for ${formatAge(rule.silentAfter)}`,
  ]
    .filter(Boolean)
    .join('; ');
}
