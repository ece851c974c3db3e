import { InstantField } from '../shared/DateFields';

/** A span as two instants (ms) of the site's zone; NaN for one that is not typed whole. */
export function SpanFields({
  from,
  until,
  zone,
  onFrom,
  onUntil,
}: {
  from: number;
  until: number;
  zone: string;
  onFrom: (ms: number) => void;
  onUntil: (ms: number) => void;
}) {
  return (
    <>
      <InstantField label="Span from" value={from} zone={zone} seconds onChange={onFrom} />
      <InstantField label="Span until" value={until} zone={zone} seconds onChange={onUntil} />
    </>
  );
}

/** An instant as it is sent; nothing for one that is not typed whole, which the server then names. */
export const isoOf = (ms: number): string | undefined =>
  Number.isFinite(ms) ? new Date(ms).toISOString() : undefined;
