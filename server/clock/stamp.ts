/** A logger writes its stamps at a fixed offset from UTC of its own, without summer time. */

/** An instant as the logger writes it: "2026-03-01 09:30:00". */
export const loggerText = (instant: Date, offsetMinutes: number): string =>
  new Date(instant.getTime() + offsetMinutes * 60_000).toISOString().slice(0, 19).replace('T', ' ');

/** A logger's stamp text as an instant, ms; NaN when it is not one. */
export const loggerInstant = (text: string, offsetMinutes: number): number =>
  /^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d$/.test(text)
    ? Date.parse(`${text.replace(' ', 'T')}Z`) - offsetMinutes * 60_000
    : Number.NaN;
