import { api, ask, type Schemas } from '@/api/client';

interface What {
  observationIds: readonly number[];
  tagIds?: readonly number[];
  /** How the observations bear on its claim; without it they support it, or are what they are there already. */
  stance?: Schemas['Stance'];
  /** Out of which themes they are taken in the same step. */
  from?: readonly { themeId: number; observationId: number }[];
}

/** Puts observations and whole tags in a theme. */
export const putInTheme = (id: number, { observationIds, tagIds = [], stance, from }: What, headers: Record<string, string> = {}) =>
  ask(
    api.POST('/api/themes/{id}/put', {
      params: { path: { id } },
      headers,
      body: { observationIds: [...observationIds], tagIds: [...tagIds], stance: stance ?? null, from: from ? [...from] : null },
    }),
  );
