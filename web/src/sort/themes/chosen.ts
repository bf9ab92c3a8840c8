import { count } from '@/parts/words';

/** What is chosen or dragged: observations and whole tags. */
export interface Chosen {
  observations: number[];
  tags: number[];
}

export const nothing: Chosen = { observations: [], tags: [] };

/** In words: "3 observations and 1 tag". */
export const said = (c: Chosen) =>
  [c.observations.length > 0 && count(c.observations.length, 'observation'), c.tags.length > 0 && count(c.tags.length, 'tag')].filter(Boolean).join(' and ');
