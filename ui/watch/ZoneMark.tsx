import { colourOfZone, type Zone } from './zone';

const chevron = (y: number) => `M3 ${y + 6} L10 ${y} L17 ${y + 6}`;

/** A zone as a shape: a bar within, one chevron beyond a limit, two far beyond, an empty frame without a value. */
export function ZoneMark({ zone, size = 20 }: { zone: Pick<Zone, 'shape' | 'isQuiet'>; size?: number }) {
  const { shape } = zone;
  const colour = colourOfZone(zone);
  const line = {
    fill: 'none',
    stroke: colour,
    strokeWidth: zone.isQuiet ? 1.6 : 3,
    strokeLinecap: 'square' as const,
    ...(zone.isQuiet && { strokeDasharray: '2 2.6' }),
  };
  return (
    <svg width={size} height={size} viewBox="0 0 20 20" aria-hidden="true" style={{ flexShrink: 0 }}>
      {shape === 0 && <path d="M3 10 H17" {...line} strokeWidth="5" strokeLinecap="butt" />}
      {typeof shape === 'number' && shape !== 0 && (
        <g transform={shape < 0 ? 'rotate(180 10 10)' : undefined}>
          <path d={chevron(Math.abs(shape) === 2 ? 3 : 7)} {...line} />
          {Math.abs(shape) === 2 && <path d={chevron(10)} {...line} />}
        </g>
      )}
      {shape === 'silent' && (
        <rect x="3" y="4" width="14" height="12" {...line} strokeWidth="2" strokeDasharray="3 2" />
      )}
      {shape === 'unlike' && <path d="M3 7 H17 M3 13 H17 M14 3 L6 17" {...line} strokeWidth="2.2" />}
      {shape === 'moves' && (
        <path d="M5 17 V4 M2 7 L5 3 L8 7 M15 3 V16 M12 13 L15 17 L18 13" {...line} strokeWidth="2" />
      )}
      {shape === 'off-line' && <path d="M3 17 L17 3 M3 10 L10 3 M10 17 L17 10" {...line} strokeWidth="2" />}
      {shape === 'unwatched' && <path d="M4 10 H16" {...line} strokeWidth="2" strokeDasharray="2 3" />}
    </svg>
  );
}
