/** How the first to the sixth channel of a trace are told apart: by colour, dash and number. */
export interface SeriesStyle {
  readonly colour: string;
  readonly dash: string | undefined;
}

const token = (name: string) => `var(--mui-palette-${name})`;
const styles: readonly SeriesStyle[] = [
  { colour: token('primary-main'), dash: undefined },
  { colour: token('warning-main'), dash: '7 3' },
  { colour: token('secondary-main'), dash: '2 3' },
  { colour: token('error-main'), dash: '9 3 2 3' },
  { colour: token('text-primary'), dash: '12 4' },
  { colour: token('text-secondary'), dash: '4 2' },
];

export const seriesStyle = (index: number): SeriesStyle => styles[index % styles.length]!;
