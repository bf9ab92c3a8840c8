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
