import { queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from './client';

/** What a number, cell or label stands for: all given conditions together. */
export interface EvidenceOf {
  tagId?: number;
  otherTagId?: number;
  overlap?: 'sameObservation' | 'touching';
  themeId?: number;
  sourceId?: number;
  participantId?: number;
}

/** A thing whose trail can be read. */
export interface TrailOf {
  thing: 'observation' | 'tag' | 'theme' | 'insight' | 'exhibit' | 'source' | 'participant' | 'session' | 'attachment';
  id: number;
}

export const queries = {
  me: () => queryOptions({ queryKey: ['me'], queryFn: () => ask(api.GET('/api/me')) }),
  studies: () => queryOptions({ queryKey: ['studies'], queryFn: () => ask(api.GET('/api/studies')) }),
  study: (studyId: number) =>
    queryOptions({ queryKey: ['study', studyId], queryFn: () => ask(api.GET('/api/studies/{studyId}', { params: { path: { studyId } } })) }),
  participants: (studyId: number) =>
    queryOptions({
      queryKey: ['participants', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/participants', { params: { path: { studyId } } })),
    }),
  sources: (studyId: number) =>
    queryOptions({
      queryKey: ['sources', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/sources', { params: { path: { studyId } } })),
    }),
  folders: (studyId: number) =>
    queryOptions({
      queryKey: ['folders', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/folders', { params: { path: { studyId } } })),
    }),
  sessions: (studyId: number) =>
    queryOptions({
      queryKey: ['sessions', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/sessions', { params: { path: { studyId } } })),
    }),
  liveNotes: (studyId: number, sessionId: number) =>
    queryOptions({
      queryKey: ['live-notes', studyId, sessionId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/live-notes/of/{sessionId}', { params: { path: { studyId, sessionId } } })),
    }),
  attachments: (studyId: number) =>
    queryOptions({
      queryKey: ['attachments', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/attachments', { params: { path: { studyId } } })),
    }),
  intake: () => queryOptions({ queryKey: ['intake'], queryFn: () => ask(api.GET('/api/intake')) }),
  channels: () => queryOptions({ queryKey: ['channels'], queryFn: () => ask(api.GET('/api/intake/channels')) }),
  watches: () => queryOptions({ queryKey: ['watches'], queryFn: () => ask(api.GET('/api/intake/watches')) }),
  tryWatch: (rule: string) =>
    queryOptions({
      queryKey: ['try-watch', rule],
      queryFn: ({ signal }) => ask(api.POST('/api/intake/try', { body: JSON.parse(rule) as Schemas['WatchRule'], signal })),
      retry: false,
    }),
  masks: (studyId: number) =>
    queryOptions({
      queryKey: ['masks', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/masks', { params: { path: { studyId } } })),
    }),
  reachOf: (id: number) =>
    queryOptions({
      queryKey: ['tag-reach', id],
      queryFn: () => ask(api.GET('/api/tags/{id}/reach', { params: { path: { id } } })),
    }),
  masksOf: (sourceId: number) =>
    queryOptions({
      queryKey: ['masks-of', sourceId],
      queryFn: () => ask(api.GET('/api/sources/{id}/masks', { params: { path: { id: sourceId } } })),
    }),
  touched: (studyId: number, id: number) =>
    queryOptions({
      queryKey: ['touched', studyId, id],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/participants/{id}/touched', { params: { path: { studyId, id } } })),
    }),
  imports: (studyId: number) =>
    queryOptions({
      queryKey: ['imports', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/imports', { params: { path: { studyId } } })),
    }),
  surveyTable: (studyId: number, key: string, headerRows: number | null) =>
    queryOptions({
      queryKey: ['survey-table', studyId, key, headerRows],
      queryFn: () =>
        ask(api.GET('/api/studies/{studyId}/imports/{key}/table', { params: { path: { studyId, key }, query: headerRows === null ? {} : { headerRows } } })),
      staleTime: Infinity,
      retry: false,
    }),
  surveyPreview: (studyId: number, key: string, headerRows: number, columns: readonly Schemas['SurveyColumn'][]) =>
    queryOptions({
      queryKey: ['survey-preview', studyId, key, headerRows, columns],
      queryFn: () =>
        ask(
          api.POST('/api/studies/{studyId}/imports/{key}/survey-preview', {
            params: { path: { studyId, key } },
            body: { name: '', headerRows, columns: [...columns] },
          }),
        ),
      retry: false,
    }),
  source: (id: number) => queryOptions({ queryKey: ['source', id], queryFn: () => ask(api.GET('/api/sources/{id}', { params: { path: { id } } })) }),
  firstText: (id: number) =>
    queryOptions({ queryKey: ['first-text', id], queryFn: () => ask(api.GET('/api/sources/{id}/first-text', { params: { path: { id } } })) }),
  correctionPreview: (id: number, text: string, basedOn: string) =>
    queryOptions({
      queryKey: ['correction-preview', id, basedOn, text],
      queryFn: ({ signal }) => ask(api.POST('/api/sources/{id}/correction-preview', { params: { path: { id } }, body: { text, basedOn }, signal })),
      staleTime: Infinity,
      retry: false,
    }),
  toLookAt: (studyId: number) =>
    queryOptions({
      queryKey: ['to-look-at', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/to-look-at', { params: { path: { studyId } } })),
    }),
  turnReadings: (id: number) =>
    queryOptions({
      queryKey: ['turn-readings', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/turn-readings', { params: { path: { id } } })),
    }),
  observations: (id: number) =>
    queryOptions({
      queryKey: ['observations', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/observations', { params: { path: { id } } })),
    }),
  tagSet: () => queryOptions({ queryKey: ['tag-set'], queryFn: () => ask(api.GET('/api/tags')) }),
  tags: (studyId: number) =>
    queryOptions({
      queryKey: ['tags', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/tags', { params: { path: { studyId } } })),
    }),
  sorting: (studyId: number) =>
    queryOptions({
      queryKey: ['sorting', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/sorting', { params: { path: { studyId } } })),
    }),
  table: (studyId: number, columns: 'sources' | 'participants') =>
    queryOptions({
      queryKey: ['table', studyId, columns],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/table', { params: { path: { studyId }, query: { columns } } })),
    }),
  overlaps: (studyId: number, kind: 'sameObservation' | 'touching') =>
    queryOptions({
      queryKey: ['overlaps', studyId, kind],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/overlaps', { params: { path: { studyId }, query: { kind } } })),
    }),
  evidence: (studyId: number, of: EvidenceOf) =>
    queryOptions({
      queryKey: ['evidence', studyId, of],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/evidence', { params: { path: { studyId }, query: of } })),
    }),
  insights: (studyId?: number) =>
    queryOptions({
      queryKey: ['show', 'insights', studyId ?? 'all'],
      queryFn: () => ask(api.GET('/api/insights', { params: { query: { studyId } } })),
    }),
  insight: (id: number) => queryOptions({ queryKey: ['show', 'insight', id], queryFn: () => ask(api.GET('/api/insights/{id}', { params: { path: { id } } })) }),
  exhibits: () => queryOptions({ queryKey: ['exhibits'], queryFn: () => ask(api.GET('/api/exhibits')) }),
  exhibit: (id: number) => queryOptions({ queryKey: ['exhibit', id], queryFn: () => ask(api.GET('/api/exhibits/{id}', { params: { path: { id } } })) }),
  trail: ({ thing, id }: TrailOf) =>
    queryOptions({
      queryKey: ['trail', thing, id],
      queryFn: () => ask(api.GET('/api/trail/{thing}/{of}', { params: { path: { thing, of: id } } })),
    }),
  steps: (studyId: number | null) =>
    queryOptions({
      queryKey: ['steps', studyId],
      queryFn: () => ask(api.GET('/api/steps', { params: { query: studyId === null ? {} : { studyId } } })),
    }),
  wordsIn: (studyId: number, typed: string) =>
    queryOptions({
      queryKey: ['words-in', studyId, typed],
      queryFn: ({ signal }) => ask(api.GET('/api/studies/{studyId}/sources/words', { params: { path: { studyId }, query: { typed } }, signal })),
      enabled: typed.trim() !== '',
    }),
  search: (typed: string, kind?: Schemas['FoundKind']) =>
    queryOptions({
      queryKey: ['search', typed, kind ?? 'all'],
      queryFn: ({ signal }) => ask(api.GET('/api/search', { params: { query: kind ? { typed, kind } : { typed } }, signal })),
      enabled: typed.trim() !== '',
    }),
  accounts: () => queryOptions({ queryKey: ['accounts'], queryFn: () => ask(api.GET('/api/accounts')) }),
  invitations: () => queryOptions({ queryKey: ['invitations'], queryFn: () => ask(api.GET('/api/invitations')) }),
  members: (studyId: number) =>
    queryOptions({
      queryKey: ['members', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/members', { params: { path: { studyId } } })),
    }),
  joining: (token: string) =>
    queryOptions({ queryKey: ['join', token], queryFn: () => ask(api.GET('/api/join/{token}', { params: { path: { token } } })), retry: false }),
  read: (token: string) =>
    queryOptions({
      queryKey: ['read', token],
      queryFn: () => ask(api.GET('/api/read/{token}', { params: { path: { token } } })),
      refetchInterval: 30_000,
    }),
  readContext: (token: string, evidenceKey: string) =>
    queryOptions({
      queryKey: ['read', token, evidenceKey],
      queryFn: () => ask(api.GET('/api/read/{token}/context/{evidenceKey}', { params: { path: { token, evidenceKey } } })),
    }),
};
