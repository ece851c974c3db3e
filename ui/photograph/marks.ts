/** A mark on a picture; places in shares of its width and height, from the upper left corner. */
export type Mark =
  | { readonly kind: 'arrow'; readonly from: Place; readonly to: Place }
  | { readonly kind: 'ring'; readonly from: Place; readonly to: Place }
  | { readonly kind: 'letter'; readonly at: Place; readonly letter: string };
export interface Place {
  readonly x: number;
  readonly y: number;
}
export const markKinds = ['arrow', 'ring', 'letter'] as const;

/** Marks are red within white, so that they stand out on any picture. */
export const markColours = { line: '#d0103a', edge: '#ffffff' } as const;

/** Line width for a picture of that width, pixels. */
export const markWidth = (width: number): number => Math.max(3, width / 160);

/** The letter a next mark has: A, B, C … */
export const nextLetter = (marks: readonly Mark[]): string =>
  String.fromCharCode(65 + (marks.filter((m) => m.kind === 'letter').length % 26));

/** What an arrow's head is drawn by, pixels: its tip and the two ends of its barbs. */
export function arrowHead(from: Place, to: Place, length: number): [Place, Place, Place] {
  const angle = Math.atan2(to.y - from.y, to.x - from.x);
  const barb = (turn: number): Place => ({
    x: to.x - length * Math.cos(angle + turn),
    y: to.y - length * Math.sin(angle + turn),
  });
  return [to, barb(0.45), barb(-0.45)];
}

/** A mark as an SVG path in pixels; null for a letter. */
export function markPath(mark: Mark, width: number, height: number): string | null {
  if (mark.kind === 'letter') return null;
  const at = ({ x, y }: Place): Place => ({ x: x * width, y: y * height });
  const [from, to] = [at(mark.from), at(mark.to)];
  if (mark.kind === 'arrow') {
    const [tip, left, right] = arrowHead(from, to, markWidth(width) * 5);
    return `M${from.x} ${from.y} L${tip.x} ${tip.y} M${left.x} ${left.y} L${tip.x} ${tip.y} L${right.x} ${right.y}`;
  }
  const [rx, ry] = [Math.abs(to.x - from.x) / 2, Math.abs(to.y - from.y) / 2];
  const [cx, cy] = [(from.x + to.x) / 2, (from.y + to.y) / 2];
  return `M${cx - rx} ${cy} a${rx} ${ry} 0 1 0 ${2 * rx} 0 a${rx} ${ry} 0 1 0 ${-2 * rx} 0`;
}

/** Draws marks onto a picture. */
export function drawMarks(
  pen: OffscreenCanvasRenderingContext2D,
  width: number,
  height: number,
  marks: readonly Mark[],
): void {
  const line = markWidth(width);
  pen.lineCap = 'round';
  pen.lineJoin = 'round';
  for (const mark of marks) {
    const path = markPath(mark, width, height);
    for (const [colour, thick] of [
      [markColours.edge, line * 2],
      [markColours.line, line],
    ] as const) {
      pen.strokeStyle = colour;
      pen.lineWidth = thick;
      if (path) pen.stroke(new Path2D(path));
      else if (mark.kind === 'letter') {
        pen.font = `700 ${line * 9}px sans-serif`;
        pen.textAlign = 'center';
        pen.textBaseline = 'middle';
        if (colour === markColours.edge) pen.strokeText(mark.letter, mark.at.x * width, mark.at.y * height);
        else {
          pen.fillStyle = colour;
          pen.fillText(mark.letter, mark.at.x * width, mark.at.y * height);
        }
      }
    }
  }
}
