import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '../client';
import { counted, filtered, quoted, tagSet } from '../restsOn';
import { inPages, type Asked, type EvidenceOf, type AgreementOf, type Under } from './asked';

/** As a query carries it. */
const behind = ({ cell, ...of }: EvidenceOf) => ({ ...of, ...(cell && { cell: JSON.stringify(cell) }) });

/** Counts and comparisons, and the words behind them. */
export const weigh = {
  table: (studyId: number, columns: Asked<'/api/studies/{studyId}/table'>['columns'], under: Under) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, 'not_asked', ...counted, ...filtered] } },
      queryKey: ['table', studyId, columns, under],
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET('/api/studies/{studyId}/table', { params: { path: { studyId }, query: { columns, ...under } } })),
    }),
  overlaps: (studyId: number, kind: Schemas['OverlapKind'], under: Under) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, ...counted, ...filtered] } },
      queryKey: ['overlaps', studyId, kind, under],
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET('/api/studies/{studyId}/overlaps', { params: { path: { studyId }, query: { kind, ...under } } })),
    }),
  evidenceQuotes: (studyId: number, of: EvidenceOf, words = '', under: Under = {}) =>
    infiniteQueryOptions({
      meta: { restsOn: { studyId, tables: ['theme', 'theme_tag', 'theme_observation', ...tagSet, ...quoted, ...filtered] } },
      queryKey: ['evidence', studyId, of, 'quotes', words, under],
      queryFn: ({ pageParam, signal }) =>
        ask(
          api.GET('/api/studies/{studyId}/evidence/quotes', {
            params: { path: { studyId }, query: { ...behind(of), page: pageParam, words, ...under } },
            signal,
          }),
        ),
      ...inPages,
    }),
  agreement: (studyId: number, of: AgreementOf) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, 'source_text', 'settlement', 'settled_mark', ...counted] } },
      queryKey: ['agreement', studyId, of],
      queryFn: ({ signal }) => ask(api.GET('/api/studies/{studyId}/agreement', { params: { path: { studyId }, query: of }, signal })),
    }),
  disagreements: (studyId: number, of: AgreementOf & { tagId: number }) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, 'source_text', 'settlement', 'settled_mark', ...counted] } },
      queryKey: ['disagreements', studyId, of],
      queryFn: ({ signal }) => ask(api.GET('/api/studies/{studyId}/agreement/disagreements', { params: { path: { studyId }, query: of }, signal })),
    }),
  evidence: (studyId: number, of: EvidenceOf, under: Under = {}) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['theme', 'theme_tag', 'theme_observation', ...tagSet, 'not_asked', ...quoted, ...filtered] } },
      queryKey: ['evidence', studyId, of, under],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/evidence', { params: { path: { studyId }, query: { ...behind(of), ...under } } })),
    }),
  filters: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['saved_filter'] } },
      queryKey: ['filters', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/filters', { params: { path: { studyId } } })),
    }),
};
