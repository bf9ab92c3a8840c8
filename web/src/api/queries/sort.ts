import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '../client';
import { counted, everything, filtered, quoted, tagSet } from '../restsOn';
import { inPagesOf, type Under, type UnsortedOf } from './asked';

/** What themes are made of. */
const themes = ['theme', 'theme_tag', 'theme_observation', 'theme_question', 'left_out', 'not_asked'] as const;

/** What suggestions are made of. */
const suggested = ['suggestion', 'suggested_group', 'suggested_item'] as const;

/** Tags and themes. */
export const sort = {
  hangsOn: (id: number) =>
    queryOptions({
      meta: { restsOn: everything },
      queryKey: ['hangs-on', id],
      queryFn: () => ask(api.GET('/api/tags/{id}/hangs', { params: { path: { id } } })),
    }),
  reachOf: (id: number) =>
    queryOptions({
      meta: { restsOn: { tables: [...tagSet, 'observation_tag', 'attachment_tag', 'theme_tag', 'study'] } },
      queryKey: ['tag-reach', id],
      queryFn: () => ask(api.GET('/api/tags/{id}/reach', { params: { path: { id } } })),
    }),
  /** What taking in a codebook would do; null while there is none. */
  codebookPlan: (studyId: number | undefined, lines: Schemas['CodebookLine'][] | null) =>
    queryOptions({
      meta: { restsOn: { tables: [...tagSet] } },
      queryKey: ['codebook-plan', studyId, lines],
      queryFn: () =>
        studyId === undefined
          ? ask(api.POST('/api/tags/codebook/plan', { body: { lines: lines! } }))
          : ask(api.POST('/api/studies/{studyId}/codebook/plan', { params: { path: { studyId } }, body: { lines: lines! } })),
      enabled: lines !== null,
      gcTime: 0,
    }),
  split: (studyId: number, tagId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['tag_split', 'split_tray', 'split_decision', ...tagSet, ...counted] } },
      queryKey: ['split', studyId, tagId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/tags/{tagId}/split', { params: { path: { studyId, tagId } } })),
    }),
  /** Observations on the split desk; `decided` is how many decisions their hints rest on. */
  splitItems: (studyId: number, tagId: number, observationId: number[], decided: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: quoted } },
      queryKey: ['splitItems', studyId, tagId, observationId, decided],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/tags/{tagId}/split/items', { params: { path: { studyId, tagId }, query: { observationId } } })),
    }),
  splitHolding: (studyId: number, tagId: number, words: string, participantId: number | null, decided: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: quoted } },
      queryKey: ['splitHolding', studyId, tagId, words, participantId, decided],
      queryFn: () =>
        ask(
          api.GET('/api/studies/{studyId}/tags/{tagId}/split/holding', {
            params: { path: { studyId, tagId }, query: { words, ...(participantId !== null && { participantId }) } },
          }),
        ),
    }),
  lookAlikes: () =>
    queryOptions({
      meta: { restsOn: { tables: [...tagSet, 'tag_apart', 'observation', 'observation_tag', 'source_text'] } },
      queryKey: ['look-alikes'],
      queryFn: () => ask(api.GET('/api/tag-look-alikes')),
    }),
  mergeShown: (id: number, tagId: number[]) =>
    queryOptions({
      meta: { restsOn: everything },
      queryKey: ['merge', id, tagId],
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET('/api/tags/{id}/merge', { params: { path: { id }, query: { tagId } } })),
    }),
  tagSet: () =>
    queryOptions({ meta: { restsOn: { tables: [...tagSet, 'observation_tag', 'study'] } }, queryKey: ['tag-set'], queryFn: () => ask(api.GET('/api/tags')) }),
  tagProposals: () =>
    queryOptions({
      meta: { restsOn: { tables: [...tagSet, 'tag_proposal', 'study', 'membership'] } },
      queryKey: ['tag-proposals'],
      queryFn: () => ask(api.GET('/api/tag-proposals')),
    }),
  tagAcross: (id: number) =>
    queryOptions({
      meta: { restsOn: { tables: [...tagSet, 'study', 'membership', ...counted] } },
      queryKey: ['tag-across', id],
      queryFn: () => ask(api.GET('/api/tags/{id}/across', { params: { path: { id } } })),
    }),
  tagSetThen: (day: string, studyId: number | undefined) =>
    queryOptions({
      meta: { restsOn: { tables: [...tagSet] } },
      queryKey: ['tag-set', 'then', day, studyId],
      placeholderData: keepPreviousData,
      queryFn: () =>
        studyId === undefined
          ? ask(api.GET('/api/tags/then', { params: { query: { day, utcOffset: -new Date().getTimezoneOffset() } } }))
          : ask(api.GET('/api/studies/{studyId}/tags/then', { params: { path: { studyId }, query: { day, utcOffset: -new Date().getTimezoneOffset() } } })),
    }),
  tags: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet] } },
      queryKey: ['tags', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/tags', { params: { path: { studyId } } })),
    }),
  tagCounts: (studyId: number, under: Under = {}) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, 'not_asked', ...counted, ...(under.where ? filtered : [])] } },
      queryKey: ['tag-counts', studyId, under],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/tag-counts', { params: { path: { studyId }, query: under } })),
    }),
  sorting: (studyId: number, under: Under & { quotes?: number } = {}) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...themes, 'attribute', ...quoted, ...filtered] } },
      queryKey: ['sorting', studyId, under],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/sorting', { params: { path: { studyId }, query: under } })),
    }),
  theme: (studyId: number, id: number, under: Under = {}) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...themes, 'attribute', ...quoted, ...filtered] } },
      queryKey: ['theme', studyId, id, under],
      queryFn: () => ask(api.GET('/api/themes/{id}', { params: { path: { id }, query: under } })),
    }),
  /** The pieces of a theme: those of one stance, or of each, with or without what its sub-themes hold. */
  themePieces: (studyId: number, id: number, of: Under & { stance?: Schemas['Stance']; beside?: boolean }) =>
    infiniteQueryOptions({
      meta: { restsOn: { studyId, tables: [...themes, ...quoted, ...filtered] } },
      queryKey: ['themePieces', studyId, id, of],
      placeholderData: (before, query) => (query?.queryKey[2] === id ? before : undefined),
      queryFn: ({ pageParam, signal }) => ask(api.GET('/api/themes/{id}/pieces', { params: { path: { id }, query: { page: pageParam, ...of } }, signal })),
      ...inPagesOf<Schemas['ThemeQuotes']>(),
    }),
  themeMerge: (id: number, themeId: number[]) =>
    queryOptions({
      meta: { restsOn: everything },
      queryKey: ['themeMerge', id, themeId],
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET('/api/themes/{id}/merge', { params: { path: { id }, query: { themeId } } })),
    }),
  /** What lies in no theme: what nobody has decided about, or what was left out on purpose. */
  unsorted: (studyId: number, of: UnsortedOf) =>
    infiniteQueryOptions({
      meta: { restsOn: { studyId, tables: [...themes, ...quoted, ...filtered] } },
      queryKey: ['unsorted', studyId, of],
      // While other words are looked for, those that were found stay; never those of another study.
      placeholderData: (before, query) => (query?.queryKey[1] === studyId ? before : undefined),
      queryFn: ({ pageParam, signal }) =>
        ask(api.GET('/api/studies/{studyId}/unsorted', { params: { path: { studyId }, query: { page: pageParam, ...of } }, signal })),
      ...inPagesOf<Schemas['UnsortedPage']>(),
    }),
  /** Which observations those are, in the same order. */
  unsortedIds: (studyId: number, of: UnsortedOf) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...themes, ...quoted, ...filtered] } },
      queryKey: ['unsortedIds', studyId, of],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/unsorted/ids', { params: { path: { studyId }, query: of } })),
    }),
  /** Whom to talk to next, for a study, a theme or a question. */
  whoNext: (studyId: number, of: { theme?: number; question?: number }) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...themes, ...tagSet, 'attribute', 'reading', ...counted, ...filtered] } },
      queryKey: ['whoNext', studyId, of],
      queryFn: () =>
        ask(
          api.GET('/api/studies/{studyId}/who-next', {
            params: {
              path: { studyId },
              query: { ...(of.theme !== undefined && { themeId: of.theme }), ...(of.question !== undefined && { researchQuestionId: of.question }) },
            },
          }),
        ),
    }),
  /** Suggestions that were asked for. */
  suggestions: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...suggested, 'theme', 'observation', 'blind_tagging', 'blind_tagger'] } },
      queryKey: ['suggestions', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/suggestions', { params: { path: { studyId } } })),
    }),
  suggestion: (studyId: number, id: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...suggested, ...themes, ...quoted] } },
      queryKey: ['suggestion', id],
      queryFn: () => ask(api.GET('/api/suggestions/{id}', { params: { path: { id } } })),
    }),
  suggestedQuotes: (studyId: number, id: number, observationId: number[]) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: quoted } },
      queryKey: ['suggestedQuotes', id, observationId],
      placeholderData: (before: Schemas['Quote'][] | undefined, query: { queryKey: readonly unknown[] } | undefined) =>
        query?.queryKey[1] === id ? before : undefined,
      queryFn: () => ask(api.GET('/api/suggestions/{id}/quotes', { params: { path: { id }, query: { observationId } } })),
      enabled: observationId.length > 0,
    }),
  /** What tells best what a group is about. Answers do not have it looked for again: it would change under the eyes. */
  suggestedTold: (studyId: number, id: number, suggestedGroupId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['suggested_group', ...quoted] } },
      queryKey: ['suggestedTold', id, suggestedGroupId],
      queryFn: () => ask(api.GET('/api/suggestions/{id}/told', { params: { path: { id }, query: { suggestedGroupId } } })),
    }),
  tagPage: (studyId: number, tagId: number, under: Under = {}) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, 'not_asked', 'attribute', ...counted, ...filtered] } },
      queryKey: ['tagPage', studyId, tagId, under],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/tags/{tagId}/page', { params: { path: { studyId, tagId }, query: under } })),
    }),
  tellingQuotes: (studyId: number, tagId: number, under: Under = {}) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...quoted, ...filtered] } },
      queryKey: ['tellingQuotes', studyId, tagId, under],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/tags/{tagId}/telling-quotes', { params: { path: { studyId, tagId }, query: under } })),
    }),
};
