import { useMemo } from 'react';
import { tagLooks, type LookedAt } from './tagLook';

/** How tags look, by id: the same function until a name, a colour or a place in the set changes, whatever their counts do. */
export function useTagLook(tags: readonly LookedAt[] | undefined) {
  const signature = useMemo(
    () =>
      JSON.stringify(
        (tags ?? []).map(({ id, name, parentId, colour, settled, members }) => ({ id, name, parentId, colour, settled, members: members ? [] : null })),
      ),
    [tags],
  );
  return useMemo(() => tagLooks(JSON.parse(signature) as LookedAt[]), [signature]);
}
