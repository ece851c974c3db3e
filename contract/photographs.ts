import { hopKinds, type HopKind } from '@/core/wiring/hop';
import { finite, id, occurredAt, words } from '@/schema/pieces';
import { must, number, oneOf, orNull, shape, text } from '@/schema/shape';

/** When in the work a picture was taken: before leads were touched, when done, or of the place. */
export const occasions = ['before', 'after', 'place'] as const;
export type Occasion = (typeof occasions)[number];
export const occasionWords: Readonly<Record<Occasion, string>> = {
  before: 'Before touching',
  after: 'When done',
  place: 'The place',
};

/** The largest picture that is sent, bytes; pictures are made smaller before. */
export const largestPicture = 1_500_000;
/** The longest body that holds one. */
export const largestPhotographBody = Math.ceil((largestPicture * 4) / 3) + 4096;

export interface AddPhotograph {
  photographId: string;
  occasion: Occasion;
  /** From which side, what to look at. */
  note: string;
  /** When it was taken. */
  occurredAt: string;
  planRevision: number | null;
  /** Only where the person wants it kept. */
  position: { latitude: number; longitude: number } | null;
  /** JPEG, PNG or WebP, base64. */
  picture: string;
  /** The terminal it shows. */
  terminal?: string;
  /** Or a hop of a channel's signal path. */
  hop?: { channelId: string; kind: HopKind };
  /** The photograph of which this is a copy with marks on it. */
  copyOf?: string;
}
export const addPhotograph = shape<AddPhotograph>({
  photographId: id,
  occasion: must(oneOf<Occasion>()(...occasions)),
  note: must(words()),
  occurredAt,
  planRevision: must(orNull(number((n) => n.integer().min(1)))),
  position: must(
    orNull(
      shape<NonNullable<AddPhotograph['position']>>({
        latitude: must(finite((n) => n.min(-90).max(90))),
        longitude: must(finite((n) => n.min(-180).max(180))),
      }),
    ),
  ),
  picture: must(text((s) => s.base64().max(Math.ceil((largestPicture * 4) / 3) + 4))),
  terminal: text((s) => s.trim().min(1).max(40)),
  hop: shape<NonNullable<AddPhotograph['hop']>>({
    channelId: id,
    kind: must(oneOf<HopKind>()(...hopKinds)),
  }),
  copyOf: text((s) => s.uuid({ version: 'uuidv7' })),
});

export interface TakeBackPhotograph {
  reason: string;
}
export const takeBackPhotograph = shape<TakeBackPhotograph>({ reason: must(words(1)) });

/** Photographs of a station that nobody took back, newest first. */
export interface PhotographsView {
  /** Of the site. */
  zone: string;
  /** The newest, so many as are shown at once. */
  photographs: PhotographView[];
  /** How many there are. */
  total: number;
  /** What one can be said to show. */
  terminals: string[];
  channels: { id: string; name: string }[];
}
export interface PhotographView {
  id: string;
  occasion: Occasion;
  note: string;
  takenAt: string;
  planRevision: number | null;
  width: number;
  height: number;
  latitude: number | null;
  longitude: number | null;
  /** The terminal or hop it shows, in words; null for the station. */
  shows: string | null;
  copyOf: string | null;
  initials: string;
}
