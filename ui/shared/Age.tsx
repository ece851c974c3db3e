'use client';

import { formatAge } from '@/core/quantity/format';
import { secondsSince, timeText } from './time';
import { useNow } from './useNow';

/** How long ago, with the full time on hover. */
export function Age({ at, ago = true }: { at: string; ago?: boolean }) {
  const now = useNow(Date.parse(at), 5000);
  return (
    <time dateTime={at} title={timeText(at)} suppressHydrationWarning>
      {formatAge(Math.max(0, secondsSince(at, now)))}
      {ago ? ' ago' : ''}
    </time>
  );
}
