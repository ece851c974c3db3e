/**
 * Stamps and spans of time with their unit in the type: seconds given where milliseconds are wanted do
 * not compile. A plain number, as arithmetic gives, may be either; what is said by a name is held to it.
 */
declare const unit: unique symbol;

/** Seconds: intervals, and stamps since 1970 where records are reckoned with. */
export type Seconds = number & { readonly [unit]?: 's' };
/** Milliseconds: instants since 1970 as the language has them, and spans between them. */
export type Milliseconds = number & { readonly [unit]?: 'ms' };

/** @example inMilliseconds(1.5) // 1500 */
export const inMilliseconds = (seconds: Seconds): Milliseconds => seconds * 1000;
/** @example inSeconds(1500) // 1.5 */
export const inSeconds = (milliseconds: Milliseconds): Seconds => milliseconds / 1000;
