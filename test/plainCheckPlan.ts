import type { CheckPlan } from '@/core/check/plan';

/** A check of air temperature as it is planned when nothing is special. */
export const plainCheckPlan: CheckPlan = {
  procedure: 'side-by-side',
  quantity: 'airTemperature',
  unit: '°C',
  zoneName: 'Lantern room',
  repeats: 3,
  school: 'sum',
  settleWindow: 60,
  settleBand: 0.1,
  guard: 2,
  sensorTolerance: 0.3,
  sensorResolution: 0.01,
  sensorResponse: 0,
  pools: false,
  referenceTolerance: 0.2,
  referenceResolution: 0.1,
  referenceRange: [-20, 60],
  companions: [],
  points: [],
  comparesDirectly: true,
  offsets: null,
  outOfDateReason: null,
  adjustIn: 'record',
  decimals: 2,
};
