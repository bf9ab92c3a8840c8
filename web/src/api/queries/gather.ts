import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '../client';
import { nextPage, whole } from '../pages';
import { nothing, quoted, tagSet, whoTakesPart } from '../restsOn';
import { type FeedbackOf } from './asked';

/** What is gathered. */
export const gather = {
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
};
