import { ownFields, type OwnDifference, type OwnField, type OwnSettings } from '@/core/settings/ownSettings';
import { listOf, must, oneOf, shape, text } from '@/schema/shape';
import { stored } from './stored';

/** What a logger was told of itself, and what it held; one that nobody told holds nothing. */
const words = must(text((s) => s.allow('')));
const own = shape<OwnSettings>({ stationId: words, name: words, activated: must(listOf(text())) });
export const storedOwn = stored('what a logger holds of itself', own);

export interface OwnIntent {
  readonly revisionId: string;
  readonly settings: OwnSettings;
  readonly says: string;
}
export const ownIntent = stored(
  'what a logger is to be told of itself',
  shape<OwnIntent>({ revisionId: must(text()), settings: must(own), says: must(text()) }),
);

export interface OwnOutcome {
  readonly readBack: OwnSettings;
  readonly differences: readonly OwnDifference[];
}
export const ownOutcome = stored(
  'what a logger was told of itself',
  shape<OwnOutcome>({
    readBack: must(own),
    differences: must(
      listOf(
        shape<OwnDifference>({
          field: must(oneOf<OwnField>()(...ownFields)),
          wanted: words,
          found: words,
        }),
      ),
    ),
  }),
);
