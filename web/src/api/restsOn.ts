import type { Schemas } from './client';

/** The tables whose changes are told, as the server's catalogue has them; a test of the server holds the two together. */
export const tables = [
  'study',
  'research_question',
  'membership',
  'participant',
  'attribute',
  'attribute_value',
  'folder',
  'session',
  'session_participant',
  'media',
  'source',
  'source_text',
  'source_original',
  'source_shape',
  'source_participant',
  'turn',
  'speaker',
  'label_choice',
  'let_stand',
  'mask',
  'protection',
  'attachment',
  'attachment_tag',
  'survey',
  'survey_row',
  'live_notes',
  'live_line',
  'live_line_tag',
  'watch',
  'routing',
  'tag',
  'observation',
  'observation_tag',
  'bundle_tag',
  'tag_apart',
  'tag_proposal',
  'tag_search',
  'refused_passage',
  'saved_filter',
  'blind_tagging',
  'blind_tagger',
  'settlement',
  'settled_mark',
  'correction_look',
  'margin_note',
  'theme',
  'theme_tag',
  'theme_observation',
  'insight',
  'evidence',
  'insight_attachment',
  'not_asked',
  'exhibit',
  'exhibit_insight',
  'exhibit_link',
  'job',
  'recording',
  'channel',
  'feedback',
] as const;

export type Table = (typeof tables)[number];

/** What a query is made of: a change of anything else leaves it as it is. */
export interface RestsOn {
  tables: readonly Table[];
  /** Changes in other studies do not touch it. */
  studyId?: number | undefined;
  /** Changes of rows of other sources do not touch it. */
  sourceId?: number | undefined;
}

export const everything: RestsOn = { tables };
export const nothing: RestsOn = { tables: [] };

/** Tags and bundles. */
export const tagSet = ['tag', 'bundle_tag'] as const;

/** Who is in which source. */
export const whoTakesPart = ['source_participant', 'session_participant', 'speaker'] as const;
/** What every count is made of. */
export const counted = ['observation', 'observation_tag', 'source', 'participant', 'turn', 'blind_tagging', 'blind_tagger', ...whoTakesPart] as const;
/** What conditions ask for besides. */
export const filtered = ['session', 'attribute_value', 'observation'] as const;
/** What quotes are made of. */
export const quoted = [...counted, 'source_text', 'mask', 'correction_look', ...tagSet, 'recording'] as const;

/** Tables whose rows stand in one source, so that it is told which. */
const ofSources: ReadonlySet<string> = new Set<Table>([
  'source',
  'source_text',
  'source_original',
  'source_shape',
  'source_participant',
  'turn',
  'speaker',
  'label_choice',
  'mask',
  'protection',
  'observation',
  'observation_tag',
  'correction_look',
  'margin_note',
]);

/** What a step has changed; null where there was too much to tell one by one. */
export interface Changed extends Omit<Schemas['Changed'], 'rows'> {
  rows: Record<string, number[] | null>;
}

/** Whether a change touches what a query is made of. */
export function touches(changed: Changed, { tables, studyId, sourceId }: RestsOn): boolean {
  if (changed.studyId !== null && studyId !== undefined && changed.studyId !== studyId) return false;
  const elsewhere = sourceId !== undefined && changed.sources !== null && !changed.sources.includes(sourceId);
  return tables.some((table) => table in changed.rows && !(elsewhere && ofSources.has(table)));
}
