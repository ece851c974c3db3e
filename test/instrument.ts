import { newId } from '@/server/id';

/** A reference instrument as the form sends it, another each time. */
export const newInstrument = () => ({
  instrumentId: newId(),
  name: 'a',
  model: 'b',
  serial: newId(),
  calibratedOn: '2026-01-01',
  dueOn: '2027-01-01',
  quantities: [{ quantity: 'ph', tolerance: 0.1, resolution: 0.01, low: 0, high: 14 }],
});
