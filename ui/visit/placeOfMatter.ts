import type { OpenMatter } from '@/core/visit/openMatter';

/** Where an open matter can be ended. */
export function placeOfMatter(stationId: string, { kind, subject }: OpenMatter): string {
  const station = `/stations/${stationId}`;
  switch (kind) {
    case 'leads-off':
    case 'write-unknown':
      return `${station}/connect`;
    case 'line-held':
      return `${station}/connect/line`;
    case 'settings-staged':
      return `${station}/connect#settings`;
    case 'bench-open':
      return `${station}/bench`;
    case 'check-open':
      return `${station}/check/${subject}`;
    case 'put-back':
      return `${station}/visit#checklist`;
  }
}
