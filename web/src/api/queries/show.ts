import { queryOptions } from '@tanstack/react-query';
import { api, ask } from '../client';
import { nothing, quoted } from '../restsOn';

/** Insights, exhibits, and what readers are given. */
export const show = {
  insights: (studyId?: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['insight', 'evidence', 'text_reference', 'not_asked', 'attribute', 'attribute_value', ...quoted] } },
      queryKey: ['show', 'insights', studyId ?? 'all'],
      queryFn: () => ask(api.GET('/api/insights', { params: { query: { studyId } } })),
    }),
  insight: (id: number) =>
    queryOptions({
      meta: {
        restsOn: {
          tables: ['insight', 'evidence', 'text_reference', 'insight_attachment', 'attachment', 'not_asked', 'attribute', 'attribute_value', ...quoted],
        },
      },
      queryKey: ['show', 'insight', id],
      queryFn: () => ask(api.GET('/api/insights/{id}', { params: { path: { id } } })),
    }),
  exhibits: () =>
    queryOptions({
      meta: { restsOn: { tables: ['exhibit', 'exhibit_insight', 'exhibit_link'] } },
      queryKey: ['exhibits'],
      queryFn: () => ask(api.GET('/api/exhibits')),
    }),
  exhibit: (id: number) =>
    queryOptions({
      meta: {
        restsOn: {
          tables: [
            'exhibit',
            'exhibit_insight',
            'exhibit_link',
            'insight',
            'evidence',
            'not_asked',
            'attribute',
            'attribute_value',
            'let_stand',
            'mask',
            ...quoted,
          ],
        },
      },
      queryKey: ['exhibit', id],
      queryFn: () => ask(api.GET('/api/exhibits/{id}', { params: { path: { id } } })),
    }),
  read: (token: string) =>
    queryOptions({
      meta: { restsOn: nothing },
      queryKey: ['read', token],
      queryFn: () => ask(api.GET('/api/read/{token}', { params: { path: { token } } })),
      refetchInterval: 30_000,
    }),
  readContext: (token: string, evidenceKey: string) =>
    queryOptions({
      meta: { restsOn: nothing },
      queryKey: ['read', token, evidenceKey],
      queryFn: () => ask(api.GET('/api/read/{token}/context/{evidenceKey}', { params: { path: { token, evidenceKey } } })),
    }),
};
