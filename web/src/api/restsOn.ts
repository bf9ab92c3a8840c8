import type { Schemas } from './client';

/** A table whose changes are told. */
export type Table = Schemas['TableName'];

/** What a query is made of: a change of anything else leaves it as it is. */
export interface RestsOn {
  tables: readonly Table[] | 'all';
  /** Changes in other studies do not touch it. */
  studyId?: number | undefined;
  /** Changes of rows of other sources do not touch it. */
  sourceId?: number | undefined;
}

export const everything: RestsOn = { tables: 'all' };
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

/** What a step has changed; null where there was too much to tell one by one. */
export interface Changed extends Omit<Schemas['Changed'], 'rows'> {
  rows: Record<string, number[] | null>;
}

/** Whether a change touches what a query is made of. */
export function touches(changed: Changed, { tables, studyId, sourceId }: RestsOn): boolean {
  if (changed.studyId !== null && studyId !== undefined && changed.studyId !== studyId) return false;
  const { rows, sources, inSources } = changed;
  const elsewhere = sourceId !== undefined && sources !== null && !sources.includes(sourceId);
  return (tables === 'all' ? Object.keys(rows) : tables).some((table) => table in rows && !(elsewhere && inSources.includes(table)));
}
