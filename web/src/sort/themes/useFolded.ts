import { useKept } from '@/shared/useKept';

const numbers = (value: unknown): value is number[] => Array.isArray(value) && value.every((n) => typeof n === 'number');

/** Which themes of a study are folded; kept on this machine, the same on the table and in the outline. */
export function useFolded(studyId: number) {
  const [ids, setIds] = useKept<number[]>(`folded-themes-${studyId}`, [], numbers);
  const folded: ReadonlySet<number> = new Set(ids);
  return { folded, fold: (id: number) => setIds(folded.has(id) ? ids.filter((f) => f !== id) : [...ids, id]) };
}
