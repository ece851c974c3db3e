import { occasionWords, type PhotographView } from '@/contract/photographs';

export const pictureAddress = (stationId: string, id: string, size: 'large' | 'small'): string =>
  `/api/v1/stations/${stationId}/photographs/${id}?size=${size}`;

/** What a picture shows, in words. */
export const pictureText = ({ occasion, note, shows }: PhotographView): string =>
  [`${occasionWords[occasion]}${note && `: ${note}`}`, shows].filter(Boolean).join(' · ');
