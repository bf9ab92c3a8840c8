import { useState } from 'react';
import { toast } from 'sonner';
import type { Step } from '@/api/client';
import { useSteps } from '@/api/useWrite';
import { outgoing } from '@/api/waiting/outgoing';
import type { NewWaiting } from '@/api/waiting/waiting';
import { placeIn, type Place } from './place';
import { writes, type Shown, type TagsGiven } from './writes';

const recentKept = 6;

/** What is marked: a text, by which a mark is called, or a recording. */
interface Marked<P extends Place> {
  id: number;
  textHash: string;
  /** What a place in it is called while it waits to be sent. */
  called: (place: P) => string;
}

/** Everything that marking writes: shown at once, kept in the browser until the server has it, taken back if the server refuses it. */
export function useMarking<P extends Place>(studyId: number, source: Marked<P>) {
  const { undo } = useSteps();
  const [recent, setRecent] = useState<number[]>([]);
  const [last, setLast] = useState<TagsGiven | null>(null);
  const used = (given: TagsGiven) => {
    setLast(given);
    setRecent([...new Set([...given.tagIds, ...recent])].slice(0, recentKept));
  };
  const send = (write: NewWaiting): Promise<Step | null> => outgoing.write(write).catch(() => null);
  return {
    recent,
    last,
    /** Marks a place. The number is the mark's until the server has given it one; the promise tells which, or null when it was refused. */
    mark: (place: P, given: TagsGiven): { own: number; made: Promise<number | null> } => {
      used(given);
      const write = writes.mark(source.id, place, given, source.called(place), source.textHash);
      return { own: write.makes, made: send(write).then((step) => step?.id ?? null) };
    },
    /** Whether the server took them. */
    addTags: (id: number, given: TagsGiven): Promise<boolean> => {
      used(given);
      return send(writes.tag(studyId, id, given)).then((step) => step !== null);
    },
    untag: (id: number, tagId: number) => void send(writes.untag(id, tagId)),
    value: (id: number, tagId: number, value: number | null) => void send(writes.value(id, tagId, value)),
    sentiment: (id: number, sentiment: Shown['sentiment']) => void send(writes.sentiment(id, sentiment)),
    star: (o: Shown) => void send(writes.star(o.id, !o.starred)),
    unsure: (o: Shown) => void send(writes.unsure(o.id, !o.unsure)),
    /** Moves its edges from where they are seen. */
    move: (o: Shown<P>, to: P) => void send(writes.move(o.id, to, placeIn<Place>(o))),
    remove: (id: number) =>
      void send(writes.remove(studyId, id)).then((step) => {
        if (step?.actionId != null) toast(step.label, { action: { label: 'Undo', onClick: () => void undo(null, step.actionId) } });
      }),
  };
}
