import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '../client';
import { everything, nothing } from '../restsOn';
import { type TrailOf } from './asked';

/** What belongs to no room: people, studies, history, search. */
export const workspace = {
  me: () => queryOptions({ meta: { restsOn: nothing }, queryKey: ['me'], queryFn: () => ask(api.GET('/api/me')) }),
  studies: () =>
    queryOptions({
      meta: {
        restsOn: { tables: ['study', 'membership', 'source', 'participant', 'session', 'observation', 'theme', 'insight', 'correction_look', 'routing'] },
      },
      queryKey: ['studies'],
      queryFn: () => ask(api.GET('/api/studies')),
    }),
  researchQuestions: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['research_question'] } },
      queryKey: ['researchQuestions', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/research-questions', { params: { path: { studyId } } })),
    }),
  study: (studyId: number) =>
    queryOptions({
      meta: {
        restsOn: {
          studyId,
          tables: ['study', 'research_question', 'source', 'participant', 'session', 'observation', 'theme', 'insight', 'correction_look', 'routing'],
        },
      },
      queryKey: ['study', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}', { params: { path: { studyId } } })),
    }),
  history: (studyId: number, of: { by?: number; sourceId?: number; tagId?: number; since?: string; until?: string }) =>
    infiniteQueryOptions({
      meta: { restsOn: { ...everything, studyId } },
      queryKey: ['history', studyId, of],
      queryFn: ({ pageParam, signal }) =>
        ask(api.GET('/api/studies/{studyId}/history', { params: { path: { studyId }, query: { ...of, page: pageParam } }, signal })),
      initialPageParam: 0,
      // A full page may have another after it.
      getNextPageParam: (last: readonly Schemas['TrailEntry'][], pages: readonly unknown[]) => (last.length === 200 ? pages.length : undefined),
    }),
  /** All that uses a thing. */
  usesOf: (thing: Schemas['ThingKind'], of: number) =>
    queryOptions({
      meta: { restsOn: everything },
      queryKey: ['uses', thing, of],
      queryFn: () => ask(api.GET('/api/uses/{thing}/{of}', { params: { path: { thing, of } } })),
      enabled: of > 0,
    }),
  trail: ({ thing, id }: TrailOf) =>
    queryOptions({
      meta: { restsOn: everything },
      queryKey: ['trail', thing, id],
      queryFn: () => ask(api.GET('/api/trail/{thing}/{of}', { params: { path: { thing, of: id } } })),
    }),
  steps: (studyId: number | null) =>
    queryOptions({
      meta: { restsOn: everything },
      queryKey: ['steps', studyId],
      queryFn: () => ask(api.GET('/api/steps', { params: { query: studyId === null ? {} : { studyId } } })),
    }),
  search: (typed: string, kind?: Schemas['FoundKind']) =>
    queryOptions({
      meta: { restsOn: everything },
      queryKey: ['search', typed, kind ?? 'all'],
      queryFn: ({ signal }) => ask(api.GET('/api/search', { params: { query: kind ? { typed, kind } : { typed } }, signal })),
      enabled: typed.trim() !== '',
    }),
  accounts: () => queryOptions({ meta: { restsOn: nothing }, queryKey: ['accounts'], queryFn: () => ask(api.GET('/api/accounts')) }),
  invitations: () => queryOptions({ meta: { restsOn: nothing }, queryKey: ['invitations'], queryFn: () => ask(api.GET('/api/invitations')) }),
  members: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['membership'] } },
      queryKey: ['members', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/members', { params: { path: { studyId } } })),
    }),
  joining: (token: string) =>
    queryOptions({
      meta: { restsOn: nothing },
      queryKey: ['join', token],
      queryFn: () => ask(api.GET('/api/join/{token}', { params: { path: { token } } })),
      retry: false,
    }),
};
