import { api, ask } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import type { Place } from './tagPlaces';

/** Puts tags somewhere else in the tag set, in the order in which they are given. */
export const usePlaceTags = () =>
  useWrite(({ ids, to }: { ids: readonly number[]; to: Place }) => ask(api.PUT('/api/tags/places', { body: { tagIds: [...ids], ...to } })));
