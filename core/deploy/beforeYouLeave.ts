import { formatAge, formatDifference, formatValue } from '../quantity/format';
import { clockTolerance } from '../series/clock';
import type { StandAlone } from '../device/loggerProfile';
import { daysText, type Lasting } from './lasting';
import { fullKinds, type LaunchState } from './launch';

/** What is looked at before anybody walks away from a launched logger. */
export interface LeaveFacts {
  readonly state: LaunchState;
  /** The launch it holds is the one on file; false for another, null for none on file. */
  readonly ours: boolean | null;
  readonly channels: readonly {
    readonly number: number;
    readonly name: string;
    /** In its unit; null for no value. */
    readonly value: number | null;
    readonly unit: string;
    readonly decimals: number;
    /** What its sensor can show; null where nobody said. */
    readonly range: readonly [number, number] | null;
  }[];
  /** Share of its memory that is used, of 1. */
  readonly memoryUsed: number;
  readonly batteryVolts: number;
  readonly standAlone: StandAlone;
  readonly whenFull: StandAlone['whenFull'][number];
  readonly lasting: Lasting | null;
  /** Days until somebody comes again. */
  readonly visitEvery: number;
  /** Logger − true time and how well that is known, s. */
  readonly clock: { readonly difference: number; readonly uncertainty: number };
  /** s until the next row; null for a logger that waits for its button. */
  readonly nextRow: number | null;
  /** s between rows. */
  readonly storeEvery: number;
  /** Leads that nobody ticked as landed, by sensor: "T1-0881 ivory". */
  readonly openLeads: readonly string[];
  /** Sensors that are marked as off-line, and settings that wait to be written. */
  readonly offLine: readonly string[];
  readonly staged: number;
}

/** One line of the page: good, or what is wrong and what to do. */
export interface LeaveItem {
  readonly of: 'recording' | 'values' | 'memory' | 'battery' | 'clock' | 'next-row' | 'leads' | 'settings';
  readonly good: boolean;
  readonly says: string;
  /** What to do; empty where it is good. */
  readonly remedy: string;
}

/**
 * Whether one can walk away: every point is green, or said why not and what to do. Common practice, no source:
 * live values, memory used and battery are looked at before leaving.
 *
 * @param f what the logger shows now, and what is on file
 */
export function beforeYouLeave(f: LeaveFacts): readonly LeaveItem[] {
  const item = (
    of: LeaveItem['of'],
    wrong: readonly [says: string, remedy: string] | null,
    good: string,
  ): LeaveItem =>
    wrong
      ? { of, good: false, says: wrong[0], remedy: wrong[1] }
      : { of, good: true, says: good, remedy: '' };
  return [
    item(
      'recording',
      recordingFault(f),
      f.state === 'recording' ? 'It records.' : 'It is launched and waits for its start.',
    ),
    item(
      'values',
      valueFault(f),
      f.channels.map((c) => `${c.name} ${formatValue(c.value, c.decimals)} ${c.unit}`).join(', '),
    ),
    item('memory', memoryFault(f), memoryText(f)),
    item(
      'battery',
      f.batteryVolts < f.standAlone.battery.change
        ? [
            `Its battery shows ${formatValue(f.batteryVolts, 2)} V; below ${formatValue(f.standAlone.battery.change, 2)} V it is to be changed.`,
            'Change the battery, then launch it again.',
          ]
        : batteryFault(f),
      `Its battery shows ${formatValue(f.batteryVolts, 2)} V${f.lasting ? ` and lasts ${daysText(f.lasting.battery)} from new` : ''}.`,
    ),
    item(
      'clock',
      Math.abs(f.clock.difference) - f.clock.uncertainty > clockTolerance
        ? [
            `Its clock is ${formatDifference(f.clock.difference, 0)} s off.`,
            'Stop it, set its clock under Connect, then launch it again.',
          ]
        : null,
      `Its clock is right within ${clockTolerance} s (${formatDifference(f.clock.difference, 1)} s).`,
    ),
    item(
      'next-row',
      f.nextRow !== null && f.nextRow > f.storeEvery + 1 && f.state === 'recording'
        ? [`No row is due within its interval of ${formatAge(f.storeEvery)}.`, 'Launch it again.']
        : null,
      f.nextRow === null
        ? 'The first row comes with its button.'
        : `The next row is due in ${formatAge(f.nextRow)}.`,
    ),
    item(
      'leads',
      f.openLeads.length > 0
        ? [
            `Not ticked as landed: ${f.openLeads.join(', ')}.`,
            'Look at these leads and tick them under Connect.',
          ]
        : f.offLine.length > 0
          ? [
              `Marked as off-line: ${f.offLine.join(', ')}.`,
              'End the off-line window once its leads are back.',
            ]
          : null,
      'Every lead is ticked as landed, nothing is off-line.',
    ),
    item(
      'settings',
      f.staged > 0
        ? [
            `${f.staged} ${f.staged === 1 ? 'setting waits' : 'settings wait'} to be written.`,
            'Stop it, write them under Connect, then launch it again.',
          ]
        : null,
      'No setting waits to be written.',
    ),
  ];
}

function recordingFault({ state, ours }: LeaveFacts): readonly [string, string] | null {
  if (state === 'idle') return ['It was never launched: it records nothing.', 'Launch it.'];
  if (state === 'stopped') return ['It was stopped: it records nothing.', 'Read it out, then launch it.'];
  if (state === 'full') return ['Its memory is full: it records nothing.', 'Read it out, then launch it.'];
  if (state === 'flat')
    return ['Its battery ended: it records nothing.', 'Change the battery, read it out, then launch it.'];
  if (ours !== true)
    return [
      'It was launched by somebody else: description, start and interval may not be those on file.',
      'Read it out, then launch it from here.',
    ];
  return null;
}

function valueFault({ channels }: LeaveFacts): readonly [string, string] | null {
  if (channels.length === 0) return ['No channel is stored.', 'Write the settings of its channels first.'];
  const none = channels.filter((c) => c.value === null);
  if (none.length > 0)
    return [
      `No value from ${none.map((c) => `channel ${c.number} (${c.name})`).join(', ')}.`,
      'Look at its leads and settings: what shows nothing now stores nothing later.',
    ];
  const beyond = channels.filter((c) => c.range && (c.value! < c.range[0] || c.value! > c.range[1]));
  return beyond.length === 0
    ? null
    : [
        beyond
          .map(
            (c) =>
              `${c.name} shows ${formatValue(c.value, c.decimals)} ${c.unit}; its sensor can show ${formatValue(c.range![0], c.decimals)} to ${formatValue(c.range![1], c.decimals)}.`,
          )
          .join(' '),
        'Look at its leads, its input and its conversion.',
      ];
}

const memoryText = ({ memoryUsed, lasting, whenFull }: LeaveFacts): string =>
  `${Math.round(memoryUsed * 100)} % of its memory is used${lasting ? `; an empty one lasts ${daysText(lasting.memory)}` : ''}. ${fullKinds[whenFull].says}.`;

function memoryFault(f: LeaveFacts): readonly [string, string] | null {
  const { memoryUsed, lasting, whenFull, visitEvery } = f;
  const left = lasting ? lasting.memory.low * (1 - memoryUsed) : Infinity;
  if (left >= visitEvery) return null;
  return [
    `${Math.round(memoryUsed * 100)} % of its memory is used; what is left may be full in ${daysText({ low: left, high: left })}, the next visit is after ${visitEvery}. It then ${whenFull === 'stops' ? 'stops' : 'overwrites its oldest rows'}.`,
    memoryUsed > 0.05
      ? 'Read it out and launch it anew, or come earlier.'
      : 'Store less often, or come earlier.',
  ];
}

const batteryFault = ({ lasting, visitEvery }: LeaveFacts): readonly [string, string] | null =>
  lasting && lasting.battery.low < visitEvery
    ? [
        `A new battery lasts ${daysText(lasting.battery)}, the next visit is after ${visitEvery}.`,
        'Store or measure less often, or come earlier.',
      ]
    : null;
