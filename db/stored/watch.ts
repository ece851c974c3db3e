import type { WatchRule } from '@/core/watch/rule';
import type { WatchState } from '@/core/watch/watcher';
import { watchRule, watchState } from '@/schema/watch';
import { stored } from './stored';

export const storedWatchRule = stored<WatchRule>('rule of what is watched', watchRule);
export const storedWatchState = stored<WatchState>('state of watching', watchState);
