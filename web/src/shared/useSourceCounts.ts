import { useQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { queries } from '@/api/queries';

/** How many observations stand in a source of a study. */
export function useSourceCounts(studyId: number) {
  const counts = useQuery(queries.sourceCounts(studyId)).data;
  const bySource = useMemo(() => new Map(counts?.map((c) => [c.sourceId, c.observations])), [counts]);
  return useCallback((sourceId: number) => bySource.get(sourceId) ?? 0, [bySource]);
}
