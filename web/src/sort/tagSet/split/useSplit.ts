import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { decided, inTray, takenBack, type Decision, type Split } from './split';

/** So many are fetched ahead, so that the next one is there when a key is pressed. */
const ahead = 4;
/** So many quotes are shown in a tray. */
export const peeks = 2;

type Change =
  | { do: 'decide'; ids: readonly number[]; outcome: Decision['outcome']; trays: readonly number[] }
  | { do: 'back' }
  | { do: 'several'; several: boolean }
  | { do: 'tray'; number: number; tagId: number | null; name: string | null }
  | { do: 'removeTray'; number: number };

/** A split with what is done on its desk: shown at once, sent in the order in which it was done. */
export function useSplit(studyId: number, tagId: number) {
  const cache = useQueryClient();
  const of = queries.split(studyId, tagId);
  const path = { studyId, tagId };
  const { data: split, error } = useQuery(of);
  const key = ['splitting', studyId, tagId];
  const change = useMutation({
    mutationKey: key,
    scope: { id: key.join(' ') },
    mutationFn: (given: Change) => {
      switch (given.do) {
        case 'decide':
          return ask(
            api.POST('/api/studies/{studyId}/tags/{tagId}/split/decisions', {
              params: { path },
              body: { observationIds: [...given.ids], outcome: given.outcome, trays: [...given.trays] },
            }),
          );
        case 'back':
          return ask(api.DELETE('/api/studies/{studyId}/tags/{tagId}/split/decisions/last', { params: { path } }));
        case 'several':
          return ask(api.PUT('/api/studies/{studyId}/tags/{tagId}/split', { params: { path }, body: { several: given.several } }));
        case 'tray':
          return ask(
            api.PUT('/api/studies/{studyId}/tags/{tagId}/split/trays/{number}', {
              params: { path: { ...path, number: given.number } },
              body: { tagId: given.tagId, name: given.name },
            }),
          );
        case 'removeTray':
          return ask(api.DELETE('/api/studies/{studyId}/tags/{tagId}/split/trays/{number}', { params: { path: { ...path, number: given.number } } }));
      }
    },
    onSuccess: (shown) => {
      // What was done meanwhile is in the last answer.
      if (cache.isMutating({ mutationKey: key }) <= 1) cache.setQueryData(of.queryKey, shown);
    },
    onError: (problem) => {
      toast.error(problem.message);
      void cache.invalidateQueries({ queryKey: of.queryKey });
    },
  });
  /** What is shown changes with the key, before the next one can be pressed. */
  const act = (given: Change) => {
    void cache.cancelQueries({ queryKey: of.queryKey });
    const now = cache.getQueryData<Split>(of.queryKey);
    if (now && given.do === 'decide') cache.setQueryData(of.queryKey, decided(now, given.ids, given.outcome, given.trays));
    if (now && given.do === 'back') cache.setQueryData(of.queryKey, takenBack(now).split);
    change.mutate(given);
  };
  return { split, error, change: act, now: () => cache.getQueryData<Split>(of.queryKey) };
}

/** The observations on the desk from one on, each with the words around it; hints are those of what is decided so far. */
export function useItems(studyId: number, tagId: number, split: Split | undefined, current: number | null) {
  const at = split && current !== null ? split.observations.indexOf(current) : -1;
  const known = new Set(split?.decisions.map((d) => d.observationId));
  const coming = split && current !== null ? [current, ...split.observations.filter((id, i) => i > at && !known.has(id)).slice(0, ahead)] : [];
  const items = useQuery({
    ...queries.splitItems(studyId, tagId, coming, split?.decisions.length ?? 0),
    enabled: coming.length > 0,
    placeholderData: keepPreviousData,
  }).data;
  return items?.find((i) => i.quote.observationId === current);
}

/** The latest quotes of each tray. */
export function usePeeks(studyId: number, tagId: number, split: Split) {
  const ids = split.trays.flatMap((t) => inTray(split, t.number).slice(0, peeks));
  return useQuery({ ...queries.splitItems(studyId, tagId, ids, 0), enabled: ids.length > 0, placeholderData: keepPreviousData }).data ?? [];
}
