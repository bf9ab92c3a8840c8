import type { PassagesOf, PassageUnit } from '@/api/queries';
import { asQuery, type Where } from '@/shared/filter/where';

/** What is looked for, as it stands in the address beside the conditions; what is not set leaves nothing out. */
export interface Looking {
  typed?: string;
  /** Observations instead of passages. */
  marked?: true;
  unit?: PassageUnit;
  team?: true;
  /** Only what is new for this tag. */
  newFor?: number;
  /** One person's words after another's, instead of by source. */
  groupBy?: 'person';
}

export const unitWords: Record<PassageUnit, string> = {
  sentence: 'sentences',
  paragraph: 'paragraphs',
  turn: 'turns',
  turnWithQuestion: 'turns with their question',
};
export const units = Object.keys(unitWords) as PassageUnit[];

/** What an address asks for. */
export function lookingFor(search: Record<string, unknown>): Looking {
  const found = {
    typed: search['typed'] === undefined || search['typed'] === '' ? undefined : String(search['typed']),
    marked: search['marked'] === true ? (true as const) : undefined,
    unit: units.find((u) => u === search['unit']),
    team: search['team'] === true ? (true as const) : undefined,
    newFor: typeof search['newFor'] === 'number' ? search['newFor'] : undefined,
    groupBy: search['groupBy'] === 'person' ? ('person' as const) : undefined,
  };
  return Object.fromEntries(Object.entries(found).filter(([, v]) => v !== undefined)) as Looking;
}

/** The same as the server is asked for passages. */
export const asked = (looking: Looking, typed: string, where: Where | undefined): PassagesOf => ({
  typed,
  unit: looking.unit ?? 'sentence',
  ...(looking.team && { team: true }),
  ...(looking.newFor !== undefined && { newForTagId: looking.newFor }),
  ...(looking.groupBy && { groupBy: looking.groupBy }),
  ...asQuery(where),
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
