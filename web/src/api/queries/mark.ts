import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '../client';
import { whole } from '../pages';
import { counted, filtered, nothing, quoted, tagSet } from '../restsOn';
import { inPages, type PassagesOf, type Under } from './asked';

type Found = { typed: string; groupBy?: 'person' } & Under;
const passagesOfPage = 50;

/** What is marked, and what is read and heard while marking. */
export const mark = {
  sentences: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['source_text', 'turn'] } },
      queryKey: ['sentences', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/sentences', { params: { path: { id } } })),
    }),
  gist: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['source_text', 'turn', 'speaker'] } },
      queryKey: ['gist', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/gist', { params: { path: { id } } })),
    }),
  recording: (id: number) =>
    queryOptions({
      meta: { restsOn: { tables: ['recording', 'job'] } },
      queryKey: ['recording', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/recording', { params: { path: { id } } })),
    }),
  /** Peaks of a recording, one byte each, counted from its beginning; they never change. */
  peaks: (id: number, perSecond: number, from: number, to: number) =>
    queryOptions({
      meta: { restsOn: nothing },
      queryKey: ['peaks', id, perSecond, from, to],
      queryFn: async ({ signal }) => {
        const answer = await fetch(`/api/sources/${id}/peaks?perSecond=${perSecond}&from=${from}&to=${to}`, { signal });
        if (!answer.ok) throw new Error('The wave of this recording could not be fetched.');
        return new Uint8Array(await answer.arrayBuffer());
      },
      staleTime: Infinity,
    }),
  pauses: (id: number) =>
    queryOptions({
      meta: { restsOn: nothing },
      queryKey: ['pauses', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/pauses', { params: { path: { id } } })),
      staleTime: Infinity,
    }),
  /** Moments at which the scenes of a film change. */
  scenes: (id: number) =>
    queryOptions({
      meta: { restsOn: { tables: ['job'] } },
      queryKey: ['scenes', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/scenes', { params: { path: { id } } })),
    }),
  wordsInStep: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['source', 'source_text', 'source_shape', 'turn'] } },
      queryKey: ['in-step', id],
      queryFn: async () => {
        const { words, estimated } = await ask(api.GET('/api/sources/{id}/in-step', { params: { path: { id } } }));
        const spoken = Array.from({ length: words.length / 4 }, (_, i) => ({
          start: words[4 * i]!,
          end: words[4 * i + 1]!,
          beginMs: words[4 * i + 2]!,
          endMs: words[4 * i + 3]!,
        }));
        return { spoken, estimated };
      },
    }),
  hits: (id: number, typed: string, byStem: boolean) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['source_text'] } },
      queryKey: ['hits', id, typed, byStem],
      queryFn: ({ signal }) => ask(api.GET('/api/sources/{id}/hits', { params: { path: { id }, query: { typed, byStem } }, signal })),
      placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
      enabled: typed.trim() !== '',
    }),
  /** Where the numbered lines of a source begin. */
  lines: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['source_text', 'turn'] } },
      queryKey: ['lines', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/lines', { params: { path: { id } } })),
    }),
  observations: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['observation', 'observation_tag', 'blind_tagging', 'blind_tagger'] } },
      queryKey: ['observations', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/observations', { params: { path: { id } } })),
    }),
  marginNotes: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['margin_note', 'blind_tagging', 'blind_tagger'] } },
      queryKey: ['marginNotes', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/margin-notes', { params: { path: { id } } })),
    }),
  /** Every note of a study, in the margin and on observations, and all that is unsure. */
  notes: (studyId: number, under: Under) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['margin_note', 'source_text', 'correction_look', ...counted, ...filtered] } },
      queryKey: ['notes', studyId, under],
      placeholderData: (before: Schemas['Note'][] | undefined, query) => (query?.queryKey[1] === studyId ? before : undefined),
      queryFn: async ({ signal }) =>
        (
          await whole(
            (page) => ask(api.GET('/api/studies/{studyId}/notes', { params: { path: { studyId }, query: { page, ...under } }, signal })),
            (page) => page.notes,
          )
        ).all,
    }),
  pens: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['pen', ...tagSet] } },
      queryKey: ['pens', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/pens', { params: { path: { studyId } } })),
    }),
  passages: (studyId: number, of: PassagesOf) =>
    infiniteQueryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, 'refused_passage', ...quoted, ...filtered] } },
      queryKey: ['passages', studyId, of],
      placeholderData: (before, query) => (query?.queryKey[1] === studyId ? before : undefined),
      queryFn: ({ pageParam, signal }) =>
        ask(api.GET('/api/studies/{studyId}/passages', { params: { path: { studyId }, query: { ...of, page: pageParam } }, signal })),
      initialPageParam: 0,
      getNextPageParam: (last: Schemas['PassagesFound'], pages: readonly unknown[]) =>
        pages.length * passagesOfPage < last.breadth.triple.observations ? pages.length : undefined,
    }),
  searches: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['tag_search'] } },
      queryKey: ['searches', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/searches', { params: { path: { studyId } } })),
    }),
  found: (studyId: number, tagId?: number) =>
    infiniteQueryOptions({
      meta: { restsOn: { studyId, tables: quoted } },
      queryKey: ['found', studyId, tagId],
      queryFn: ({ pageParam, signal }) =>
        ask(api.GET('/api/studies/{studyId}/found', { params: { path: { studyId }, query: { tagId, page: pageParam } }, signal })),
      ...inPages,
    }),
  more: (studyId: number, tagId: number, of: { likeId?: number | undefined; observationId: number[]; unit: PassagesOf['unit'] }) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, 'refused_passage', ...quoted] } },
      queryKey: ['more', studyId, tagId, of],
      queryFn: ({ signal }) => ask(api.GET('/api/studies/{studyId}/tags/{tagId}/more', { params: { path: { studyId, tagId }, query: of }, signal })),
    }),
  taggers: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['observation'] } },
      queryKey: ['taggers', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/agreement/taggers', { params: { path: { studyId } } })),
    }),
  tagTime: (studyId: number, tagId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, 'source', 'turn', ...counted] } },
      queryKey: ['tagTime', studyId, tagId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/tags/{tagId}/time', { params: { path: { studyId, tagId } } })),
    }),
  foundObservations: (studyId: number, of: Found) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, ...quoted, ...filtered] } },
      queryKey: ['found-observations', studyId, of],
      placeholderData: (before: Schemas['ObservationsFound'] | undefined, query) => (query?.queryKey[1] === studyId ? before : undefined),
      queryFn: ({ signal }) => ask(api.GET('/api/studies/{studyId}/observations', { params: { path: { studyId }, query: of }, signal })),
    }),
  foundQuotes: (studyId: number, of: Found) =>
    infiniteQueryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, ...quoted, ...filtered] } },
      queryKey: ['found-observations', studyId, of, 'quotes'],
      placeholderData: (before, query) => (query?.queryKey[1] === studyId ? before : undefined),
      queryFn: ({ pageParam, signal }) =>
        ask(api.GET('/api/studies/{studyId}/observations/quotes', { params: { path: { studyId }, query: { ...of, page: pageParam } }, signal })),
      ...inPages,
    }),
  blind: (id: number) =>
    queryOptions({
      meta: { restsOn: { tables: ['blind_tagging', 'blind_tagger'] } },
      queryKey: ['blind', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/blind', { params: { path: { id } } })),
    }),
  wordsIn: (studyId: number, typed: string) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['source_text', 'source'] } },
      queryKey: ['words-in', studyId, typed],
      queryFn: ({ signal }) => ask(api.GET('/api/studies/{studyId}/sources/words', { params: { path: { studyId }, query: { typed } }, signal })),
      enabled: typed.trim() !== '',
    }),
};
