import type { PassagesOf, PassageUnit } from '@/api/queries';
import type { Schemas } from '@/api/client';
import { kinds } from '@/parts/words';

type SourceKind = Schemas['SourceKind'];

/** What is looked for, as it stands in the address; what is not set leaves nothing out. */
export interface Looking {
  typed?: string;
  unit?: PassageUnit;
  team?: true;
  unmarked?: true;
  person?: number[];
  source?: number[];
  kind?: SourceKind[];
  tag?: number[];
  /** Only what is new for this tag. */
  newFor?: number;
}

export const unitWords: Record<PassageUnit, string> = {
  sentence: 'sentences',
  paragraph: 'paragraphs',
  turn: 'turns',
  turnWithQuestion: 'turns with their question',
};
export const units = Object.keys(unitWords) as PassageUnit[];

const ids = (given: unknown): number[] | undefined => {
  const found = Array.isArray(given) ? given.filter((one): one is number => typeof one === 'number' && Number.isInteger(one)) : [];
  return found.length > 0 ? [...new Set(found)] : undefined;
};

/** What an address asks for. */
export function lookingFor(search: Record<string, unknown>): Looking {
  const found = {
    typed: search['typed'] === undefined || search['typed'] === '' ? undefined : String(search['typed']),
    unit: units.find((u) => u === search['unit']),
    team: search['team'] === true ? (true as const) : undefined,
    unmarked: search['unmarked'] === true ? (true as const) : undefined,
    person: ids(search['person']),
    source: ids(search['source']),
    kind: Array.isArray(search['kind']) ? kinds.filter((k) => (search['kind'] as unknown[]).includes(k)) : undefined,
    tag: ids(search['tag']),
    newFor: typeof search['newFor'] === 'number' ? search['newFor'] : undefined,
  };
  return Object.fromEntries(Object.entries(found).filter(([, v]) => v !== undefined && !(Array.isArray(v) && v.length === 0))) as Looking;
}

/** The same as the server is asked. */
export const asked = (looking: Looking, typed: string): PassagesOf => ({
  typed,
  unit: looking.unit ?? 'sentence',
  participantId: looking.person ?? [],
  sourceId: looking.source ?? [],
  kind: looking.kind ?? [],
  tagId: looking.tag ?? [],
  ...(looking.team && { team: true }),
  ...(looking.unmarked && { unmarked: true }),
  ...(looking.newFor !== undefined && { newForTagId: looking.newFor }),
});

/** What of a list is chosen when a place of it is clicked with Shift: all from the last place that was clicked. */
export function upTo<T>(list: readonly T[], from: number | null, to: number): T[] {
  const [low, high] = from === null ? [to, to] : [Math.min(from, to), Math.max(from, to)];
  return list.slice(low, high + 1);
}

/** So many answers in a row without a yes say that it is running dry. */
export const dryAfter = 15;

/** Whether finding more runs dry: of the last answers none was a yes. */
export const runsDry = (answers: readonly boolean[]) => answers.length >= dryAfter && answers.slice(-dryAfter).every((yes) => !yes);
