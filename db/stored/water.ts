import type { OtherDatum } from '@/core/water/datum';
import type { LevelRead } from '@/core/water/levelReading';
import type { LevellingSheet } from '@/core/water/levelling';
import { levellingSheet, levelRead, otherDatums } from '@/schema/water';
import { stored } from './stored';

export const storedDatums = stored<readonly OtherDatum[]>('other datums of a station', otherDatums);
export const storedLevelRead = stored<LevelRead>('level as it was read', levelRead);
export const storedSheet = stored<LevellingSheet>('levelling sheet', levellingSheet);
