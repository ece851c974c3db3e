import type { AgainstRecordView } from '@/contract/water';
import { formatDifference } from '@/core/quantity/format';

/** What a reading beside the record says, in words; null where there is nothing to compare. */
export function againstWords(
  against: AgainstRecordView | null,
): { readonly title: string; readonly isGood: boolean } | null {
  const verdict = against?.comparison?.verdict;
  if (!verdict) return null;
  switch (verdict.kind) {
    case 'agree':
      return { title: 'They agree: leave it alone', isGood: true };
    case 'adjust':
      return {
        title: `The record is off: ${formatDifference(verdict.by, 3)} m would put it right`,
        isGood: false,
      };
    case 'beyond-guard':
      return { title: 'Beyond the guard: read again, suspect gauge or sensor', isGood: false };
    case 'not-settled':
      return { title: 'Not settled', isGood: false };
  }
}
