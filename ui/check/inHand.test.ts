import type { InstrumentView } from '@/contract/checkViews';
import { noCare } from '@/core/kit/care';
import { doubtOf, instrumentFor } from './inHand';

const instrument = (id: string, more: Partial<InstrumentView> = {}): InstrumentView => ({
  id,
  name: 'Meter',
  model: 'M',
  serial: id,
  calibratedOn: '2026-01-01',
  dueOn: '2027-01-01',
  overdueDays: 0,
  linked: false,
  quantities: ['waterTemperature', 'ph'].map((quantity) => ({
    quantity: quantity as 'ph',
    tolerance: 0.1,
    resolution: 0.1,
    low: 0,
    high: 40,
  })),
  certified: [],
  care: noCare,
  foundOff: [],
  ...more,
});
const off = instrument('off', {
  foundOff: [{ quantity: 'waterTemperature', by: 0.5, foundOn: '2026-11-18' }],
});
const late = instrument('late', { overdueDays: 12, dueOn: '2026-11-15' });

test('what was found off is said in the quantity it was found off in, and in no other', () => {
  expect(doubtOf(off, 'waterTemperature')).toBe(
    'Found on 2026-11-18 to show +0.50 °C; not calibrated since.',
  );
  expect(doubtOf(off, 'ph')).toBeNull();
  expect(doubtOf(late, 'ph')).toMatch(/^Calibration out of date for 12 d/);
  expect(doubtOf(instrument('a'), 'ph')).toBeNull();
});

test('nobody chose: one that nothing speaks against, then one in date, then any; chosen is chosen', () => {
  const sound = instrument('sound');
  expect(instrumentFor([late, off, sound], 'waterTemperature', undefined)?.id).toBe('sound');
  expect(instrumentFor([late, off], 'waterTemperature', undefined)?.id).toBe('off');
  expect(instrumentFor([late], 'waterTemperature', undefined)?.id).toBe('late');
  expect(instrumentFor([late, off, sound], 'waterTemperature', 'late')?.id).toBe('late');
  expect(instrumentFor([sound], 'humidity', undefined)).toBeNull();
});
