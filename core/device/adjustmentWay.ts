/**
 * How a device takes an adjustment, and so what of it has to be kept. Some a logger is told over its link; others a
 * person enters at the device, and says here. Common practice, no source.
 */
export const loggerWays = ['added', 'absolute', 'true-value'] as const;
export const handWays = ['stored-average', 'constant', 'accept', 'points'] as const;
export type LoggerWay = (typeof loggerWays)[number];
export type HandWay = (typeof handWays)[number];
export type AdjustmentWay = LoggerWay | HandWay;
export const adjustmentWays: readonly AdjustmentWay[] = [...loggerWays, ...handWays];

export const adjustmentWayNames: Readonly<Record<AdjustmentWay, string>> = {
  added: 'added to the offset already there',
  absolute: 'an absolute offset',
  'true-value': 'the true value: it derives the offset itself',
  'stored-average': 'the true value against its stored average, by hand',
  constant: 'an edited constant, by hand',
  accept: 'a bare accept at its point, by hand',
  points: 'known points, by hand',
};

/** What a person does at the device, before they say here that they have. */
export const handWayAsks: Readonly<Record<HandWay, string>> = {
  'stored-average':
    'Start its average while you take the sample. When the reference is worked out, enter its value: the device takes the difference from the average it stored, not from what it reads then.',
  constant: 'Turn its constant until it reads as the reference does. Say the constant before and after.',
  accept:
    'Bring it to its point (100 % is damp air at the local pressure), wait until it stands, and accept. Say the value it was told it is.',
  points:
    'Give it its known points one after the other, rinsed between. Say the value of the last one; close with the first.',
};

export const isHandWay = (way: AdjustmentWay): way is HandWay =>
  (handWays as readonly AdjustmentWay[]).includes(way);

/**
 * The ways that can take out what was found: all of them where an offset serves, else those that change the slope as well,
 * entered at the device.
 *
 * @example waysThatServe(['added', 'points'], false) // ['points']
 */
export const waysThatServe = (
  ways: readonly AdjustmentWay[],
  offsetServes: boolean,
): readonly AdjustmentWay[] =>
  offsetServes ? ways : ways.filter((way) => way === 'points' || way === 'constant');

/** What a logger that says nothing of it takes. */
export const usualWays: readonly LoggerWay[] = ['added', 'absolute'];

/**
 * What a device read when it was told a true value: it took its offset before from its offset after. Base unit.
 *
 * @param told the true value
 * @example readWhenTold(50, 0.5, -2.7) // 53.2
 */
export const readWhenTold = (told: number, before: number, after: number): number => told - (after - before);
