import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { toast } from 'sonner';
import { queries } from '@/api/queries';
import { useSteps } from '@/api/useWrite';
import { outgoing } from '@/api/waiting/outgoing';
import { useOutgoing } from '@/api/waiting/useOutgoing';
import type { TextRange } from '@/mark/observations/place';
import type { TagsGiven } from '@/mark/observations/writes';
import { noteWrites, shownNotes, type ShownNote } from './noteWrites';

const none: readonly [] = [];

/** A source's margin notes, and everything that is written about them: shown at once, kept in the browser until the server has it. */
export function useMarginNotes(studyId: number, sourceId: number, textHash: string) {
  const stored = useQuery(queries.marginNotes(sourceId)).data ?? none;
  const { waiting } = useOutgoing();
  const { undo } = useSteps();
  const notes = useMemo(() => shownNotes(stored, waiting, sourceId), [stored, waiting, sourceId]);
  const offerUndo = (step: { actionId: number | null; label: string } | null) => {
    if (step?.actionId != null) toast(step.label, { action: { label: 'Undo', onClick: () => void undo(null, step.actionId) } });
  };
  return {
    notes,
    make: (stretch: TextRange, words: string, unsure: boolean) =>
      void outgoing.write(noteWrites.make(sourceId, stretch, words, unsure, textHash)).catch(() => null),
    unsure: (note: ShownNote) => void outgoing.write(noteWrites.unsure(note.id, !note.unsure)).catch(() => null),
    remove: (note: ShownNote) =>
      void outgoing
        .write(noteWrites.remove(studyId, note.id))
        .then(offerUndo)
        .catch(() => null),
    turn: (note: ShownNote, given: TagsGiven) =>
      void outgoing
        .write(noteWrites.turn(studyId, [note.id], given.tagIds, given.newTags))
        .then(offerUndo)
        .catch(() => null),
  };
}
