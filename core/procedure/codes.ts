/** The procedures by which a sensor is checked: of those that suit a quantity, the usual one stands first. */
export const procedureCodes = [
  'one-air',
  'ph-buffers',
  'saturated-air',
  'turbidity-standards',
  'conductivity-standard',
  'rain-pour',
  'sampled',
  'paired-window',
  'side-by-side',
  'bath',
  'ice-point',
  'salts',
  'gas',
  'bearing',
  'sea-level-report',
  'moving-level',
  'oven-drying',
  'night-zero',
  'clear-sky',
  'known-points',
] as const;
export type ProcedureCode = (typeof procedureCodes)[number];
