import type { Schemas } from '@/api/client';

/** A tag on less than this share of the units is rare. Common practice, no source. */
export const rareBelow = 0.1;

const reasons: Record<NonNullable<Schemas['CohensKappa']['undefined']>, string> = {
  noUnits: 'Kappa is undefined: there is nothing that both have read.',
  nobodyMarked: 'Kappa is undefined: neither has given this tag here, so there is nothing to disagree on.',
  allMarked: 'Kappa is undefined: both have given this tag everywhere, so there is nothing to disagree on.',
};

/** Why a coefficient is undefined, in a sentence. */
export const whyUndefined = (why: NonNullable<Schemas['CohensKappa']['undefined']>) => reasons[why];

/** Kappa in the middle of a sentence. */
export const kappaInWords = ({ kappa, percent }: Pick<Schemas['CohensKappa'], 'kappa' | 'percent'>) =>
  kappa === null || percent === null ? 'kappa is undefined' : `${Math.round(percent * 100)} % the same, kappa ${kappa.toFixed(2)}`;

/** The ends of a 95 % interval around kappa on a line from 0 to 1, in hundredths; what lies beyond is cut. */
export function onLine(kappa: number, error: number): { from: number; to: number; at: number } {
  const cut = (n: number) => Math.round(Math.min(1, Math.max(0, n)) * 100);
  return { from: cut(kappa - 1.96 * error), to: cut(kappa + 1.96 * error), at: cut(kappa) };
}

export type Outcome = Schemas['Outcome'];

/** What two people can come to, each with its key. */
export const outcomes: readonly { outcome: Outcome; key: string; words: (first: string, second: string) => string }[] = [
  { outcome: 'first', key: '1', words: (first) => `${first}’s` },
  { outcome: 'second', key: '2', words: (_, second) => `${second}’s` },
  { outcome: 'both', key: '3', words: () => 'both' },
  { outcome: 'neither', key: '4', words: () => 'neither' },
  { outcome: 'talk', key: '5', words: () => 'talk about it' },
];

/** "settled: Ida’s, by Tom" */
export function settledInWords(outcome: Outcome, first: string, second: string, by: string): string {
  if (outcome === 'talk') return `to be talked about, said ${by}`;
  return `settled: ${outcomes.find((o) => o.outcome === outcome)!.words(first, second)}, by ${by}`;
}
