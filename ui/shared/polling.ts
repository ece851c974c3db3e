import { onlineManager } from '@tanstack/react-query';
import { isAway } from '../taken/away';

/**
 * What is asked again by itself, every so many ms: not while the device says that there is no network, nor on
 * a page that was drawn from what the device holds. With the network back it is asked at once and goes on.
 */
export const every = (ms: number) => (): number | false =>
  onlineManager.isOnline() && !isAway() ? ms : false;
