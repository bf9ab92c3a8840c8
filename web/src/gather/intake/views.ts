import type { Schemas } from '@/api/client';

type Feedback = Schemas['Feedback'];

export const views = ['waiting', 'kept', 'dismissed', 'nowhere', 'all'] as const;
export type View = (typeof views)[number];
export const viewWords: Record<View, string> = { waiting: 'To decide', kept: 'Kept', dismissed: 'Dismissed', nowhere: 'In no study', all: 'Everything' };

/** Whether a piece of feedback belongs to a view, of one study or of all. */
export function isIn(piece: Feedback, view: View, studyId: number | undefined): boolean {
  const routings = piece.routings.filter((r) => studyId === undefined || r.studyId === studyId);
  if (view === 'all') return studyId === undefined || routings.length > 0;
  if (view === 'nowhere') return piece.routings.length === 0;
  return routings.some((r) => r.state === view);
}

/** Whether everything that was typed stands in it. */
export const holds = (piece: Feedback, typed: string) => {
  const words = `${piece.title} ${piece.text} ${piece.sender}`.toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => words.includes(word));
};
