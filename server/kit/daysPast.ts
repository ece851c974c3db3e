/** Days by which a day is past at an instant; 0 until it has ended. */
export function daysPast(day: string, at: Date): number {
  const end = Date.parse(`${day}T23:59:59Z`);
  return Math.max(0, Math.ceil((at.getTime() - end) / 86_400_000));
}
