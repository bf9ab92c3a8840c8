import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { queries } from '@/api/queries';
import { useSettled } from '@/parts/useSettled';
import { foundKinds, type FoundKind } from './hits';

const pause = 90;

/** What is found for what is being typed, by kind; the last answer stays until the next is there. */
export function useHits(typed: string, kind?: FoundKind) {
  const asked = useSettled(typed, pause);
  const { data, error, isFetching } = useQuery({ ...queries.search(asked, kind), placeholderData: keepPreviousData });
  const hits = typed.trim() === '' ? [] : (data ?? []);
  const groups = foundKinds.map((k) => ({ kind: k, hits: hits.filter((h) => h.kind === k) })).filter((g) => g.hits.length > 0);
  return { groups, error, busy: isFetching || asked !== typed };
}
