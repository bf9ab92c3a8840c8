import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { usePageActions } from '@/parts/actions/registry';
import { pieces } from './actions';
import type { PieceAt } from './Piece';

/** Goes from the piece that has the focus to the next or the one before. */
function step(by: 1 | -1) {
  const all = [...document.querySelectorAll<HTMLElement>('[data-piece]')];
  const at = all.findIndex((el) => el === document.activeElement);
  all[at + by]?.focus();
}

/** What is done with the piece of a theme that has the focus: its stance by a key, on to the next. */
export function usePieces() {
  const [at, setAt] = useState<PieceAt | null>(null);
  const setStance = useWrite(
    (given: Pick<PieceAt, 'themeId' | 'observationId'> & { stance: Schemas['Stance'] }) =>
      ask(
        api.PUT('/api/themes/{id}/stance', { params: { path: { id: given.themeId } }, body: { observationIds: [given.observationId], stance: given.stance } }),
      ),
    { quiet: true },
  );
  const takeOut = useWrite((given: { themeId: number; observationIds: number[]; tagIds: number[] }) =>
    ask(
      api.POST('/api/themes/{id}/take-out', {
        params: { path: { id: given.themeId } },
        body: { observationIds: given.observationIds, tagIds: given.tagIds },
      }),
    ),
  );
  usePageActions(
    pieces,
    at && {
      laid: at.laid,
      choose: at.choose ?? null,
      stance: (stance) => setStance.mutate({ ...at, stance }),
      remove: () => takeOut.mutate({ themeId: at.themeId, observationIds: [at.observationId], tagIds: [] }),
      step,
    },
  );
  return { onFocus: setAt, setStance, takeOut };
}
