/** What was typed, as a number; NaN for what is none. A comma is a decimal point, a true minus one, too. */
export const numberOf = (text: string): number =>
  text.trim() === '' ? Number.NaN : Number(text.trim().replace(',', '.').replace('−', '-'));
