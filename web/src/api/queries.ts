import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from './client';
import { nextPage, whole } from './pages';
import { counted, everything, filtered, nothing, quoted, tagSet, whoTakesPart } from './restsOn';

/** What a number, cell or label stands for: all given conditions together. */
export interface EvidenceOf {
  tagId?: number;
  otherTagId?: number;
  overlap?: 'sameObservation' | 'touching';
  themeId?: number;
  sourceId?: number;
  participantId?: number;
  sourceKind?: Schemas['SourceKind'];
  /** With `value`: only of people who have this value of the attribute. */
  attributeId?: number;
  value?: string;
}

/** A thing whose trail can be read. */
export interface TrailOf {
  thing: 'observation' | 'tag' | 'theme' | 'insight' | 'exhibit' | 'source' | 'participant' | 'session' | 'attachment';
  id: number;
}

/** Which feedback is looked at. */
export interface FeedbackOf {
  view: 'waiting' | 'kept' | 'dismissed' | 'nowhere' | 'all';
  studyId?: number;
  words: string;
}

export type PassageUnit = Schemas['PassageUnit'];

/** Whose marks are compared, over what. */
export interface AgreementOf {
  first: number;
  second: number;
  unit: 'sentence' | 'turn' | 'second';
  sourceId: number[];
}

/** Which passages are looked for. */
export interface PassagesOf {
  typed: string;
  unit: PassageUnit;
  team?: boolean;
  newForTagId?: number;
  /** What of what is found stands together; by source when nothing is said. */
  groupBy?: 'person';
  /** Conditions, as JSON. */
  where?: string;
}

/** Conditions as a query carries them. */
type Under = { where?: string };
type Found = { typed: string; groupBy?: 'person' } & Under;
const passagesOfPage = 50;

/** Pages of quotes, from the first to the last that was asked for. */
const inPages = {
  initialPageParam: 0,
  getNextPageParam: (last: Schemas['QuotePage'], pages: readonly Schemas['QuotePage'][]) =>
    nextPage(
      last.total,
      pages.map((page) => page.quotes.length),
    ),
};

export const queries = {
  me: () => queryOptions({ meta: { restsOn: nothing }, queryKey: ['me'], queryFn: () => ask(api.GET('/api/me')) }),
  studies: () =>
    queryOptions({
      meta: {
        restsOn: { tables: ['study', 'membership', 'source', 'participant', 'session', 'observation', 'theme', 'insight', 'correction_look', 'routing'] },
      },
      queryKey: ['studies'],
      queryFn: () => ask(api.GET('/api/studies')),
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
  participants: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['participant', 'attribute', 'attribute_value', ...whoTakesPart] } },
      queryKey: ['participants', studyId],
      queryFn: async ({ signal }) => {
        const { first, all } = await whole(
          (page) => ask(api.GET('/api/studies/{studyId}/participants', { params: { path: { studyId }, query: { page } }, signal })),
          (page) => page.people,
        );
        return { ...first, people: all };
      },
    }),
  sources: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['source', 'media', 'recording', 'turn', 'participant', 'routing', ...whoTakesPart] } },
      queryKey: ['sources', studyId],
      queryFn: async ({ signal }) =>
        (
          await whole(
            (page) => ask(api.GET('/api/studies/{studyId}/sources', { params: { path: { studyId }, query: { page } }, signal })),
            (page) => page.sources,
          )
        ).all,
    }),
  sourceCounts: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['source', 'observation'] } },
      queryKey: ['source-counts', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/sources/counts', { params: { path: { studyId } } })),
    }),
  folders: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['folder', 'source'] } },
      queryKey: ['folders', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/folders', { params: { path: { studyId } } })),
    }),
  sessions: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['live_notes', 'session', 'session_participant', 'source', 'participant'] } },
      queryKey: ['sessions', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/sessions', { params: { path: { studyId } } })),
    }),
  liveNotes: (studyId: number, sessionId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['live_notes', 'live_line', 'live_line_tag', ...tagSet] } },
      queryKey: ['live-notes', studyId, sessionId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/live-notes/of/{sessionId}', { params: { path: { studyId, sessionId } } })),
    }),
  attachments: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['attachment', 'attachment_tag', 'media', 'insight_attachment', ...tagSet] } },
      queryKey: ['attachments', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/attachments', { params: { path: { studyId } } })),
    }),
  intake: (of: FeedbackOf) =>
    infiniteQueryOptions({
      meta: { restsOn: { tables: ['feedback', 'routing'] } },
      queryKey: ['intake', of],
      placeholderData: keepPreviousData,
      queryFn: ({ pageParam, signal }) => ask(api.GET('/api/intake', { params: { query: { ...of, page: pageParam } }, signal })),
      initialPageParam: 0,
      getNextPageParam: (last: Schemas['FeedbackPage'], pages: readonly Schemas['FeedbackPage'][]) =>
        nextPage(
          last.total,
          pages.map((page) => page.feedback.length),
        ),
    }),
  channels: () =>
    queryOptions({ meta: { restsOn: { tables: ['channel', 'feedback'] } }, queryKey: ['channels'], queryFn: () => ask(api.GET('/api/intake/channels')) }),
  watches: () => queryOptions({ meta: { restsOn: { tables: ['watch', 'study'] } }, queryKey: ['watches'], queryFn: () => ask(api.GET('/api/intake/watches')) }),
  tryWatch: (rule: string) =>
    queryOptions({
      meta: { restsOn: { tables: ['feedback'] } },
      queryKey: ['try-watch', rule],
      queryFn: ({ signal }) => ask(api.POST('/api/intake/try', { body: JSON.parse(rule) as Schemas['WatchRule'], signal })),
      retry: false,
    }),
  masks: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['mask', 'source_text', 'source'] } },
      queryKey: ['masks', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/masks', { params: { path: { studyId } } })),
    }),
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
  masksOf: (sourceId: number) =>
    queryOptions({
      meta: { restsOn: { sourceId, tables: ['mask', 'source_text'] } },
      queryKey: ['masks-of', sourceId],
      queryFn: () => ask(api.GET('/api/sources/{id}/masks', { params: { path: { id: sourceId } } })),
    }),
  touched: (studyId: number, id: number) =>
    queryOptions({
      meta: {
        restsOn: {
          studyId,
          tables: [
            ...quoted,
            'speaker',
            'turn',
            'protection',
            'attachment',
            'session_participant',
            'theme',
            'theme_observation',
            'theme_tag',
            'insight',
            'evidence',
            'exhibit',
            'exhibit_insight',
          ],
        },
      },
      queryKey: ['touched', studyId, id],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/participants/{id}/touched', { params: { path: { studyId, id } } })),
    }),
  imports: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['job', 'source'] } },
      queryKey: ['imports', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/imports', { params: { path: { studyId } } })),
    }),
  surveyTable: (studyId: number, key: string, headerRows: number | null) =>
    queryOptions({
      meta: { restsOn: nothing },
      queryKey: ['survey-table', studyId, key, headerRows],
      queryFn: () =>
        ask(api.GET('/api/studies/{studyId}/imports/{key}/table', { params: { path: { studyId, key }, query: headerRows === null ? {} : { headerRows } } })),
      staleTime: Infinity,
      retry: false,
    }),
  surveyPreview: (studyId: number, key: string, headerRows: number, columns: readonly Schemas['SurveyColumn'][]) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['participant', 'attribute_value', 'source_text', 'survey', 'survey_row', ...tagSet] } },
      queryKey: ['survey-preview', studyId, key, headerRows, columns],
      queryFn: () =>
        ask(
          api.POST('/api/studies/{studyId}/imports/{key}/survey-preview', {
            params: { path: { studyId, key } },
            body: { name: '', headerRows, columns: [...columns], again: 'leave', heldOn: null, widenScales: false, agreedBy: null },
          }),
        ),
      retry: false,
    }),
  source: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['source', 'source_text', 'source_shape', 'media', 'turn', 'participant', 'session', ...whoTakesPart] } },
      queryKey: ['source', id],
      queryFn: () => ask(api.GET('/api/sources/{id}', { params: { path: { id } } })),
    }),
  firstText: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['source_text', 'source_original'] } },
      queryKey: ['first-text', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/first-text', { params: { path: { id } } })),
    }),
  correctionPreview: (id: number, text: string, basedOn: string) =>
    queryOptions({
      meta: { restsOn: nothing },
      queryKey: ['correction-preview', id, basedOn, text],
      queryFn: ({ signal }) => ask(api.POST('/api/sources/{id}/correction-preview', { params: { path: { id } }, body: { text, basedOn }, signal })),
      staleTime: Infinity,
      retry: false,
    }),
  toLookAt: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['correction_look', 'observation', 'observation_tag', 'source_text', 'source'] } },
      queryKey: ['to-look-at', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/to-look-at', { params: { path: { studyId } } })),
    }),
  turnReadings: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['source_text', 'turn', 'label_choice'] } },
      queryKey: ['turn-readings', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/turn-readings', { params: { path: { id } } })),
    }),
  sourceLook: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['source_text', 'source_shape', 'turn', 'speaker', 'label_choice'] } },
      queryKey: ['source-look', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/look', { params: { path: { id } } })),
    }),
  sentences: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['source_text', 'turn'] } },
      queryKey: ['sentences', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/sentences', { params: { path: { id } } })),
    }),
  recording: (id: number) =>
    queryOptions({
      meta: { restsOn: { tables: ['recording', 'job'] } },
      queryKey: ['recording', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/recording', { params: { path: { id } } })),
    }),
  protection: (id: number) =>
    queryOptions({
      meta: { restsOn: { sourceId: id, tables: ['protection'] } },
      queryKey: ['protection', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/protection', { params: { path: { id } } })),
    }),
  transcription: (id: number) =>
    queryOptions({
      meta: { restsOn: { tables: ['job'] } },
      queryKey: ['transcription', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/transcription', { params: { path: { id } } })),
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
      queryFn: async () => (await ask(api.GET('/api/sources/{id}/pauses', { params: { path: { id } } }))).map((p) => ({ start: p.beginMs, end: p.endMs })),
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
  pens: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['pen', ...tagSet] } },
      queryKey: ['pens', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/pens', { params: { path: { studyId } } })),
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
  table: (studyId: number, columns: 'sources' | 'participants', under: Under) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, 'not_asked', ...counted, ...filtered] } },
      queryKey: ['table', studyId, columns, under],
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET('/api/studies/{studyId}/table', { params: { path: { studyId }, query: { columns, ...under } } })),
    }),
  overlaps: (studyId: number, kind: 'sameObservation' | 'touching', under: Under) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, ...counted, ...filtered] } },
      queryKey: ['overlaps', studyId, kind, under],
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET('/api/studies/{studyId}/overlaps', { params: { path: { studyId }, query: { kind, ...under } } })),
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
  evidenceQuotes: (studyId: number, of: EvidenceOf, words = '', under: Under = {}) =>
    infiniteQueryOptions({
      meta: { restsOn: { studyId, tables: ['theme', 'theme_tag', 'theme_observation', ...tagSet, ...quoted, ...filtered] } },
      queryKey: ['evidence', studyId, of, 'quotes', words, under],
      queryFn: ({ pageParam, signal }) =>
        ask(api.GET('/api/studies/{studyId}/evidence/quotes', { params: { path: { studyId }, query: { ...of, page: pageParam, words, ...under } }, signal })),
      ...inPages,
    }),
  tagPage: (studyId: number, tagId: number, under: Under = {}) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, 'not_asked', 'attribute', ...counted, ...filtered] } },
      queryKey: ['tagPage', studyId, tagId, under],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/tags/{tagId}/page', { params: { path: { studyId, tagId }, query: under } })),
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
  tagTime: (studyId: number, tagId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...tagSet, 'source', 'turn', ...counted] } },
      queryKey: ['tagTime', studyId, tagId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/tags/{tagId}/time', { params: { path: { studyId, tagId } } })),
    }),
  tellingQuotes: (studyId: number, tagId: number, under: Under = {}) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: [...quoted, ...filtered] } },
      queryKey: ['tellingQuotes', studyId, tagId, under],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/tags/{tagId}/telling-quotes', { params: { path: { studyId, tagId }, query: under } })),
    }),
  evidence: (studyId: number, of: EvidenceOf, under: Under = {}) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['theme', 'theme_tag', 'theme_observation', ...tagSet, 'not_asked', ...quoted, ...filtered] } },
      queryKey: ['evidence', studyId, of, under],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/evidence', { params: { path: { studyId }, query: { ...of, ...under } } })),
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
  filters: (studyId: number) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['saved_filter'] } },
      queryKey: ['filters', studyId],
      queryFn: () => ask(api.GET('/api/studies/{studyId}/filters', { params: { path: { studyId } } })),
    }),
  blind: (id: number) =>
    queryOptions({
      meta: { restsOn: { tables: ['blind_tagging', 'blind_tagger'] } },
      queryKey: ['blind', id],
      queryFn: () => ask(api.GET('/api/sources/{id}/blind', { params: { path: { id } } })),
    }),
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
  wordsIn: (studyId: number, typed: string) =>
    queryOptions({
      meta: { restsOn: { studyId, tables: ['source_text', 'source'] } },
      queryKey: ['words-in', studyId, typed],
      queryFn: ({ signal }) => ask(api.GET('/api/studies/{studyId}/sources/words', { params: { path: { studyId }, query: { typed } }, signal })),
      enabled: typed.trim() !== '',
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
