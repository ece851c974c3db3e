import { setTests, type QualityThresholds } from '@/core/quality/tests';
import { channelSettings, importPlan, instrumentQuantity, qualityThresholds } from '@/schema/pieces';
import { listOf, record, text, type Shape } from '@/schema/shape';
import { stored } from './stored';

export const storedCautions = stored('cautions of a station', listOf(text()));
export const storedSettings = stored('settings of a channel', channelSettings);
/** What a device held, in its own words. */
export const storedReadBack = stored('settings read back', record());
export const storedQuantities = stored('quantities of an instrument', listOf(instrumentQuantity));
export const storedPlan = stored('plan of an import', importPlan);
/** A test that did not exist yet when they were set is off. */
export const storedThresholds = stored(
  'quality thresholds',
  qualityThresholds.fork([...setTests], (test) => test.optional().default(null)) as Shape<QualityThresholds>,
);
