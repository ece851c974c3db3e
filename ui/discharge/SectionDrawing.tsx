import type { SectionPoint } from '@/core/discharge/section';
import { groundPath, waterPath } from './sectionPaths';

const width = 600;
const stretched = 180;

/** A section small: stretched to be read, or to scale. */
export function SectionDrawing({
  points,
  level,
  isToScale,
}: {
  points: readonly SectionPoint[];
  level: number | null;
  isToScale: boolean;
}) {
  const xs = points.map((p) => p.across);
  const ys = points.map((p) => p.elevation);
  const [left, right, low, high] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const perMetre = (width - 20) / (right - left);
  const height = isToScale ? Math.min(500, Math.max(24, (high - low) * perMetre + 20)) : stretched;
  const x = (v: number) => 10 + (v - left) * perMetre;
  const y = (v: number) => height - 10 - ((v - low) / Math.max(1e-9, high - low)) * (height - 20);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Section of ${points.length} points, ${isToScale ? 'to scale' : 'heights stretched'}`}
      style={{ width: '100%', maxWidth: width, display: 'block' }}
    >
      {level !== null && level > low && (
        <path
          d={waterPath(points, level, x, y)}
          fill="var(--mui-palette-ground-skyWash)"
          stroke="var(--mui-palette-primary-main)"
        />
      )}
      <path
        d={groundPath(points, x, y, height)}
        fill="var(--mui-palette-ground-ochreWash)"
        stroke="var(--mui-palette-text-primary)"
      />
    </svg>
  );
}
