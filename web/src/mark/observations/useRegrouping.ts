import { putInTheme } from '@/shared/putInTheme';
import { useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, ask, Refusal } from '@/api/client';
import { outgoing } from '@/api/waiting/outgoing';
import { queries } from '@/api/queries';
import { answered, useWrite } from '@/api/useWrite';
import type { Place } from './place';
import { shownMarks, type Shown } from './writes';

const onItsWay = 'This mark has not reached the server yet. Split or join it when it has.';

/** What has no step of its own until the server has the mark: splitting, joining, and putting marks, or places without one, in themes and insights. */
export function useRegrouping<P extends Place>(studyId: number, markBare: (place: P) => Promise<number | null>) {
  /** The numbers of marks as the server has them, with all that was written on them before. */
  const sentIds = async (marks: readonly Shown[]) => {
    await outgoing.acknowledged();
    const ids = marks.map((m) => outgoing.numberOf(m.id));
    if (ids.some((id) => id < 0)) throw new Refusal(onItsWay, 0);
    return ids;
  };
  const markedId = async (what: P | Shown) => {
    if ('id' in what) return (await sentIds([what]))[0]!;
    const id = await markBare(what);
    if (id === null) throw new Refusal('This could not be marked. Select it again.', 0);
    return id;
  };
  const split = useWrite(async ({ mark, at }: { mark: Shown; at: number }) => {
    const [id] = await sentIds([mark]);
    return ask(api.POST('/api/observations/{id}/split', { params: { path: { id: id! } }, body: { at } }));
  });
  const join = useWrite(async (marks: readonly Shown[]) =>
    ask(api.POST('/api/studies/{studyId}/observations/join', { params: { path: { studyId } }, body: { observationIds: await sentIds(marks) } })),
  );
  const layIn = useWrite(async ({ what, themeId }: { what: P | Shown; themeId: number }) => putInTheme(themeId, { observationIds: [await markedId(what)] }));
  const attach = useWrite(async ({ what, insightId }: { what: P | Shown; insightId: number }) =>
    ask(
      api.POST('/api/insights/{id}/evidence', {
        params: { path: { id: insightId } },
        body: { observationIds: [await markedId(what)], stance: 'supports' },
      }),
    ),
  );
  const cache = useQueryClient();
  /** The mark after one, once all that is on its way has come: of one that was just split, its second half. */
  const after = async (sourceId: number, mark: Shown, hidden: readonly { id: number }[]) => {
    await Promise.all([outgoing.acknowledged(), answered(cache)]);
    const marks = shownMarks(cache.getQueryData(queries.observations(sourceId).queryKey) ?? [], [], sourceId).filter((m) => !hidden.some((h) => h.id === m.id));
    const here = marks.findIndex((m) => m.id === outgoing.numberOf(mark.id));
    return here < 0 ? undefined : marks[here + 1];
  };
  return {
    joinNext: async (sourceId: number, mark: Shown, hidden: readonly { id: number }[], joined: (id: number) => void) => {
      const next = await after(sourceId, mark, hidden);
      if (next) join.mutate([mark, next], { onSuccess: (step) => step.id !== null && joined(step.id) });
      else toast('There is no mark after this one to join it with.');
    },
    split: (mark: Shown, at: number) => split.mutate({ mark, at }),
    join: (marks: readonly Shown[], joined: (id: number) => void) => join.mutate(marks, { onSuccess: (step) => step.id !== null && joined(step.id) }),
    /** Where a place, or a mark, can be put. */
    placesFor: (what: P | Shown) => ({
      theme: (themeId: number) => layIn.mutate({ what, themeId }),
      insight: (insightId: number) => attach.mutate({ what, insightId }),
    }),
  };
}
