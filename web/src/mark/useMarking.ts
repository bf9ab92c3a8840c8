import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import type { Stretch } from './moves';

type Observation = Schemas['Observation'];

export interface TagsGiven {
  tagIds: number[];
  newTags: string[];
}

const recentKept = 6;

/** A mark as it will be, shown until the server answers. */
const expected = (sourceId: number, stretch: Stretch, tagIds: number[]): Observation => ({
  id: -Date.now(),
  sourceId,
  ...stretch,
  note: '',
  sentiment: null,
  starred: false,
  version: 0,
  createdBy: '',
  createdAt: '',
  tagIds,
});

/** Everything that marking writes; a new mark is painted at once and taken back if the server refuses it. */
export function useMarking(studyId: number, sourceId: number) {
  const cache = useQueryClient();
  const [recent, setRecent] = useState<number[]>([]);
  const [last, setLast] = useState<TagsGiven | null>(null);
  const used = (given: TagsGiven) => {
    setLast(given);
    setRecent([...new Set([...given.tagIds, ...recent])].slice(0, recentKept));
  };

  const mark = async (stretch: Stretch, given: TagsGiven): Promise<number | null> => {
    const key = queries.observations(sourceId).queryKey;
    const mine = expected(sourceId, stretch, given.tagIds);
    await cache.cancelQueries({ queryKey: key });
    cache.setQueryData(key, (before) => [...(before ?? []), mine].sort((a, b) => a.start - b.start || b.end - a.end));
    used(given);
    try {
      const step = await ask(
        api.POST('/api/sources/{id}/observations', { params: { path: { id: sourceId } }, body: { ...stretch, ...given, key: crypto.randomUUID() } }),
      );
      await cache.invalidateQueries();
      return step.id;
    } catch (problem) {
      cache.setQueryData(key, (before) => before?.filter((o) => o.id !== mine.id));
      toast.error((problem as Error).message);
      return null;
    }
  };
  const add = useWrite(
    ({ observationId, ...given }: TagsGiven & { observationId: number }) =>
      ask(api.POST('/api/studies/{studyId}/observations/tags', { params: { path: { studyId } }, body: { observationIds: [observationId], ...given } })),
    { quiet: true },
  );
  const untag = useWrite((given: { id: number; tagId: number }) => ask(api.DELETE('/api/observations/{id}/tags/{tagId}', { params: { path: given } })));
  const path = (id: number) => ({ params: { path: { id } } });
  const note = useWrite(
    (given: { id: number; note: string }) => ask(api.PUT('/api/observations/{id}/note', { ...path(given.id), body: { note: given.note } })),
    { quiet: true },
  );
  const sentiment = useWrite(
    (given: { id: number; sentiment: Schemas['Sentiment'] | null }) =>
      ask(api.PUT('/api/observations/{id}/sentiment', { ...path(given.id), body: { sentiment: given.sentiment } })),
    { quiet: true },
  );
  const star = useWrite((o: Observation) => ask(api.PUT('/api/observations/{id}/star', { ...path(o.id), body: { starred: !o.starred } })), { quiet: true });
  const remove = useWrite((id: number) =>
    ask(api.POST('/api/studies/{studyId}/observations/remove', { params: { path: { studyId } }, body: { observationIds: [id] } })),
  );
  return {
    recent,
    last,
    mark,
    /** Whether the server took them. */
    addTags: (observationId: number, given: TagsGiven): Promise<boolean> => {
      used(given);
      return add.mutateAsync({ observationId, ...given }).then(
        () => true,
        () => false,
      );
    },
    untag: untag.mutate,
    note: note.mutate,
    sentiment: sentiment.mutate,
    star: star.mutate,
    remove: remove.mutate,
  };
}
