import type { QueryClient } from '@tanstack/react-query';

/** Queries that are large or rarely change, with the tables that they are made of. All others are fetched again after any write. */
const madeOf: Record<string, readonly string[]> = {
  me: [],
  imports: ['job'],
  'survey-table': [],
  'turn-readings': ['source_text', 'turn'],
  'survey-preview': ['participant', 'survey_row'],
  intake: ['feedback', 'routing'],
  channels: ['channel', 'feedback'],
  watches: ['watch'],
  'try-watch': ['feedback'],
  masks: ['mask', 'source_text'],
  'tag-reach': ['observation_tag', 'attachment_tag', 'theme_tag', 'study'],
  'masks-of': ['mask', 'source_text'],
  'first-text': ['source_text'],
  'correction-preview': [],
  'to-look-at': ['correction_look', 'observation', 'source_text', 'source'],
  source: ['source', 'source_text', 'source_shape', 'turn', 'speaker', 'source_participant', 'session_participant'],
  'words-in': ['source_text'],
  'live-notes': ['live_notes', 'live_line', 'live_line_tag', 'tag'],
  sessions: ['live_notes', 'session', 'session_participant', 'source', 'participant'],
  attachments: ['attachment', 'attachment_tag', 'insight_attachment'],
  participants: ['participant', 'attribute', 'attribute_value', 'source', 'source_participant', 'speaker', 'session_participant'],
};

/** What a mark touches. */
export const markTables = ['observation', 'observation_tag', 'tag'];

/** Work on files that come in, and lines of notes that still run, change nothing else until they are done, and then say so by other tables. */
const aside = ['job', 'live_line', 'live_line_tag'];

/** Fetches again what a write may have changed; without tables, everything. */
export const refetch = (cache: QueryClient, tables?: readonly string[]) =>
  cache.invalidateQueries({
    predicate: ({ queryKey }) => {
      const made = madeOf[String(queryKey[0])];
      if (!tables || made?.some((table) => tables.includes(table))) return true;
      return !made && tables.some((table) => !aside.includes(table));
    },
  });
