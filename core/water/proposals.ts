import { roundTo } from '../quantity/format';
import { barStates, proposedCorrection, type BarProposal } from './barCorrection';
import { levelSum, type LevelRecord } from './levelSum';
import { elevationAt, type PointElevation } from './measuringPoint';

/** What a later survey would mean for a reading that was made before it, or without knowing of it. */
export interface SurveyProposal {
  readonly kind: 'survey';
  readonly readingId: string;
  readonly pointId: string;
  readonly surveyId: string;
  /** New − old elevation, m. */
  readonly change: number;
  /** What to add to the level, m: all of it, or by time what may have moved until then. */
  readonly step: number;
  readonly prorated: number;
  /** The reading was made after the survey: it only did not know of it. */
  readonly isLate: boolean;
  /** More than what both surveys are good to. */
  readonly isTelling: boolean;
}

/** The correction that checks of the bar before and after say for a reading of the water that has none. */
export interface WireProposal extends BarProposal {
  readonly kind: 'bar';
  readonly readingId: string;
  readonly pointId: string;
}

/**
 * What surveys say of readings that rest on an older one: from the survey they rest on to the next. Nothing is applied by
 * itself; what was agreed to already is left out.
 *
 * Source: common practice, no source. A point moved at once (a blow, ice) or slowly (settling): both are offered.
 *
 * @param record readings and what holds of them
 * @param elevations of all points, by surveys that hold
 */
export function surveyProposals(
  record: LevelRecord,
  elevations: readonly PointElevation[],
): SurveyProposal[] {
  return record.readings.flatMap((reading): SurveyProposal[] => {
    const { rests } = levelSum(reading, record);
    if (!rests || reading.read.kind === 'bar') return [];
    const its = elevations.filter((e) => e.pointId === rests.pointId).sort((a, b) => a.at - b.at);
    const used = its.findIndex((e) => e.surveyId === rests.surveyId);
    // A survey that was taken back says nothing any more: then the one that holds for the reading does.
    const next = used < 0 ? elevationAt(its, rests.pointId, reading.at) : its[used + 1];
    const old = its[used] ?? next;
    if (!old || !next) return [];
    if (record.revisions.some((r) => r.readingId === reading.id && r.surveyId === next.surveyId)) return [];
    const change = roundTo(next.elevation - rests.elevation, 4);
    if (Math.abs(change) < leastChange) return [];
    const isLate = reading.at >= next.at;
    const share = isLate ? 1 : Math.max(0, (reading.at - old.at) / (next.at - old.at));
    return [
      {
        kind: 'survey',
        readingId: reading.id,
        pointId: rests.pointId,
        surveyId: next.surveyId,
        change,
        step: roundTo(change, 3),
        prorated: roundTo(share * change, 3),
        isLate,
        isTelling: Math.abs(change) > Math.hypot(old.accuracy, next.accuracy),
      },
    ];
  });
}

/** Half the last digit of a level, m: less changes nothing on paper. */
const leastChange = 0.0005;

/**
 * Corrections for readings of the water that have no check of the bar at their visit, and were given none.
 *
 * @param record readings and what holds of them
 */
export const barProposals = (record: LevelRecord): WireProposal[] =>
  record.readings.flatMap((reading): WireProposal[] => {
    if (reading.read.kind !== 'wire' || reading.pointId === null) return [];
    if (levelSum(reading, record).level !== null) return [];
    const found = proposedCorrection(barStates(record.readings, reading.pointId), reading.at);
    return found ? [{ kind: 'bar', readingId: reading.id, pointId: reading.pointId, ...found }] : [];
  });
