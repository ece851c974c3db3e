import type { Support } from '@/core/discharge/curve';
import type { GaugingSheet } from '@/core/discharge/gaugingSheet';
import type { RatingSegment } from '@/core/discharge/rating';
import type { SectionPoint } from '@/core/discharge/section';
import { gaugingSheet, ratingSegments, sectionPoints, supports } from '@/schema/discharge';
import { maybeId } from '@/schema/pieces';
import { listOf } from '@/schema/shape';
import { stored } from './stored';

export const storedSection = stored<readonly SectionPoint[]>('cross-section', sectionPoints);
export const storedSupports = stored<readonly Support[]>('supports of a curve', supports);
export const storedGauging = stored<GaugingSheet>('gauging as it was entered', gaugingSheet);
export const storedSegments = stored<readonly RatingSegment[]>('rating by level', ratingSegments);
export const storedIds = stored<readonly string[]>('what a curve rests on', listOf(maybeId));
