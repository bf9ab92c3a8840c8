import type { Schemas } from '@/api/client';

export type Split = Schemas['SplitShown'];
export type Decision = Schemas['SplitDecision'];

/** What was decided, at once in what is shown; the server's answer follows. */
export function decided(split: Split, ids: readonly number[], outcome: Decision['outcome'], trays: readonly number[]): Split {
  const others = split.decisions.filter((d) => !ids.includes(d.observationId));
  const batch = latest(split) + 1;
  return { ...split, decisions: [...others, ...ids.map((observationId) => ({ observationId, outcome, trays: [...trays], batch }))] };
}

const latest = (split: Split) => split.decisions.reduce((most, d) => Math.max(most, d.batch), 0);

/** Without what was decided last, and the first that it was decided of. */
export function takenBack(split: Split): { split: Split; of: number | null } {
  const last = latest(split);
  return {
    split: { ...split, decisions: split.decisions.filter((d) => d.batch !== last) },
    of: split.decisions.find((d) => d.batch === last)?.observationId ?? null,
  };
}

export const decisionOn = (split: Split, id: number): Decision | undefined => split.decisions.find((d) => d.observationId === id);

/** What is gone through: all that is not decided, or what was put off as unsure. */
export type Going = 'open' | 'unsure';

/** The one that comes next behind another (or first of all), in order and around the end; null when none is left. */
export function next(split: Split, going: Going, behind: number | null): number | null {
  const known = new Map(split.decisions.map((d) => [d.observationId, d.outcome]));
  const at = behind === null ? -1 : split.observations.indexOf(behind);
  const inOrder = [...split.observations.slice(at + 1), ...split.observations.slice(0, at + 1)];
  return inOrder.find((id) => (going === 'unsure' ? id !== behind && known.get(id) === 'unsure' : !known.has(id))) ?? null;
}

/** What lies in each tray, the latest first. */
export const inTray = (split: Split, number: number): number[] =>
  split.decisions
    .filter((d) => d.trays.includes(number))
    .map((d) => d.observationId)
    .toReversed();

/** How many different people were heard in what is decided. */
export function peopleSoFar(split: Split): number {
  const known = new Set(split.decisions.map((d) => d.observationId));
  return new Set(split.observations.flatMap((id, i) => (known.has(id) && split.people[i] !== null ? [split.people[i]] : []))).size;
}

/** The lowest key without a tray; null when all nine have one. */
export const freeKey = (split: Split): number | null => [1, 2, 3, 4, 5, 6, 7, 8, 9].find((n) => !split.trays.some((t) => t.number === n)) ?? null;
