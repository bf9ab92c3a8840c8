import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useKept } from '@/shared/useKept';

/** The tags that a person has on the keys 1 to 9 in a study. */
export function usePens(studyId: number) {
  const cache = useQueryClient();
  const query = queries.pens(studyId);
  const pens = useQuery(query).data ?? [];
  const set = useMutation({
    mutationFn: ({ number, tagId }: { number: number; tagId: number | null }) =>
      ask(api.PUT('/api/studies/{studyId}/pens/{number}', { params: { path: { studyId, number } }, body: { tagId } })),
    onSuccess: (next) => cache.setQueryData(query.queryKey, next),
    onError: (problem) => toast.error(problem.message),
  });
  return { pens, set: set.mutate };
}

/** The pen that marked last, or else the first one. */
export const lastPen = (pens: readonly { tagId: number }[], last: { tagIds: readonly number[] } | null): number | null =>
  (pens.find((p) => last?.tagIds.includes(p.tagId)) ?? pens[0])?.tagId ?? null;

/** What a release of the mouse does with the words it has selected. */
export type OnRelease = 'line' | 'pen' | 'nothing';
const choices: readonly OnRelease[] = ['line', 'pen', 'nothing'];
const isChoice = (value: unknown): value is OnRelease => choices.some((c) => c === value);

/** What a release does, as the person has chosen it on this machine. */
export const useOnRelease = () => useKept<OnRelease>('on-release', 'line', isChoice);
