import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '../client';
import { counted, everything, filtered, quoted, tagSet } from '../restsOn';
import { inPages, type Under } from './asked';

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
  sorting: (studyId: number, under: Under = {}) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['theme', 'theme_tag', 'theme_observation', 'not_asked', ...tagSet, ...quoted, ...filtered] } },
      queryKey: ['sorting', studyId, under],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/sorting', { params: { path: { studyId }, query: under } })),
    }),
  unsorted: (studyId: number, words: string, under: Under = {}) =>
    infiniteQueryOptions({
      meta: { restsOn: { studyId, tables: ['theme', 'theme_tag', 'theme_observation', ...tagSet, ...quoted, ...filtered] } },
      queryKey: ['unsorted', studyId, words, under],
      // While other words are looked for, those that were found stay; never those of another study.
      placeholderData: (before, query) => (query?.queryKey[1] === studyId ? before : undefined),
      queryFn: ({ pageParam, signal }) =>
        ask(api.GET('/api/studies/{studyId}/unsorted', { params: { path: { studyId }, query: { page: pageParam, words, ...under } }, signal })),
      ...inPages,
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
