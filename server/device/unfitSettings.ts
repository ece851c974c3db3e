import { limitsOf } from '@/core/settings/channelSettings';
import { limitNames, limitsOutOfOrder } from '@/core/settings/limits';
import { inSentence, quantityOf } from '@/core/quantity/quantity';
import { convertible, valueToBase } from '@/core/quantity/unit';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import {
  refuseMeasurementInterval,
  refuseStorageInterval,
  type IntervalRefusal,
} from '@/core/settings/interval';
import { badField, type Problem } from '../problem';
import type { ChannelNode } from '../station/stationGraph';

/** Refuses settings that a channel cannot have, naming field, value and remedy. */
export function refuseUnfit(channel: ChannelNode, settings: ChannelSettings): void {
  const q = quantityOf(channel.row.quantity);
  if (settings.quantity !== channel.row.quantity)
    throw badField(
      'wrong-quantity',
      'quantity',
      settings.quantity,
      `This channel carries ${inSentence(q.code)}.`,
      'Map another channel to that quantity.',
    );
  if (!convertible(settings.unit, q.unit))
    throw badField(
      'wrong-unit',
      'unit',
      settings.unit,
      `${q.name} is not measured in ${settings.unit}.`,
      `Use ${q.unit} or a unit that converts to it.`,
    );
  const storage = refuseStorageInterval(settings.storageInterval);
  if (storage) throw intervalProblem('storageInterval', 'storage interval', storage);
  const measurement = refuseMeasurementInterval(settings.measurementInterval, settings.storageInterval);
  if (measurement) throw intervalProblem('measurementInterval', 'measurement interval', measurement);
  const { reportingInterval = null } = settings;
  if (
    reportingInterval !== null &&
    !(
      reportingInterval <= 86_400 &&
      reportingInterval > 0 &&
      reportingInterval % settings.storageInterval === 0
    )
  )
    throw badField(
      'reporting-interval',
      'reportingInterval',
      reportingInterval,
      `The reporting interval of ${reportingInterval} s is no whole number of storage intervals of ${settings.storageInterval} s within a day.`,
      'What is sent on is what was stored: use a multiple, or none.',
    );
  refuseWetAbove(channel, settings);
  const wrong = limitsOutOfOrder(limitsOf(settings));
  if (wrong)
    throw badField(
      'limits-out-of-order',
      wrong[1],
      settings[wrong[1]],
      `The limit "${limitNames[wrong[0]].toLowerCase()}" (${settings[wrong[0]]}) is not below "${limitNames[wrong[1]].toLowerCase()}" (${settings[wrong[1]]}).`,
      'Give limits that rise from far too low to far too high, or leave some out.',
    );
}

function refuseWetAbove({ output, row }: ChannelNode, { wetAbove = null, unit }: ChannelSettings): void {
  if (wetAbove === null) return;
  const q = quantityOf(row.quantity);
  if (row.quantity !== 'leafWetness')
    throw badField(
      'no-wet-threshold',
      'wetAbove',
      wetAbove,
      `${q.name} has no value from which on it is wet.`,
      'Leave it out.',
    );
  const [low, high] = output?.range ?? q.range;
  const base = valueToBase(wetAbove, unit, q.unit);
  if (!(base > low && base < high))
    throw badField(
      'wet-threshold-outside',
      'wetAbove',
      wetAbove,
      `${wetAbove} ${unit} does not lie between ${low} and ${high} ${q.unit}: nothing, or everything, would be wet.`,
      'Look whether the leaf is dry and clean, then read it again.',
    );
}

function intervalProblem(field: string, name: string, r: IntervalRefusal): Problem {
  switch (r.kind) {
    case 'not-whole':
      return badField(
        'interval-not-whole',
        field,
        r.value,
        `The ${name} of ${r.value} s is not a whole number of seconds.`,
        'Use whole seconds.',
      );
    case 'outside':
      return badField(
        'interval-outside',
        field,
        r.value,
        `The ${name} of ${r.value} s is outside ${r.low}–${r.high} s.`,
        `Use ${r.low} to ${r.high} s.`,
      );
    case 'does-not-divide':
      return badField(
        'interval-does-not-divide',
        field,
        r.value,
        `The ${name} of ${r.value} s does not divide ${r.into === 86_400 ? 'a day' : `the storage interval of ${r.into} s`}.`,
        `Use ${r.near.join(' or ')} s, so that times come out round.`,
      );
  }
}
