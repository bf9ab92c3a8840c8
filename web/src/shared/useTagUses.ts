import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { queries } from '@/api/queries';
import { isBundle } from '@/parts/bundles';
import type { TagUse } from '@/parts/tagLook';
import { asQuery, type Where } from '@/shared/filter/where';

/** The tags of a study, then its bundles, with their counts, of all observations or of those that meet conditions. Names and looks are fetched apart from the counts, which change with every mark. */
export function useTagUses(studyId: number, where?: Where): { tags: TagUse[] | undefined; error: Error | null } {
  const names = useQuery(queries.tags(studyId));
  const counts = useQuery(queries.tagCounts(studyId, asQuery(where)));
  const tags = useMemo(() => {
    if (!names.data || !counts.data) return undefined;
    const of = new Map(counts.data.map((c) => [c.tagId, c]));
    // A tag that has come since the counts has none yet.
    return names.data
      .toSorted((a, b) => Number(isBundle(a)) - Number(isBundle(b)))
      .flatMap((tag) => {
        const counted = of.get(tag.id);
        return counted ? [{ tag, breadth: counted.breadth, own: counted.own }] : [];
      });
  }, [names.data, counts.data]);
  return { tags, error: names.error ?? counts.error };
}
