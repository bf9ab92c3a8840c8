import type { ActionList } from '@/parts/actions/actions';

/** What is done with a piece of feedback. */
export interface PieceActs {
  step: (by: 1 | -1) => void;
  /** Whether there was something to decide. */
  settle: (state: 'kept' | 'dismissed', senderTakesPart: boolean) => boolean;
}

export const pieces = {
  title: 'On a piece of feedback',
  actions: {
    next: { name: 'Next piece', group: 'move', keys: ['ArrowDown'], run: (a) => a.step(1) },
    previous: { name: 'Piece before', group: 'move', keys: ['ArrowUp'], run: (a) => a.step(-1) },
    keep: { name: 'Keep it', group: 'mark', keys: ['k'], run: (a) => a.settle('kept', false) },
    keepWithSender: { name: 'Keep it, and who sent it is a participant', group: 'mark', keys: ['p'], run: (a) => a.settle('kept', true) },
    dismiss: { name: 'Dismiss it', group: 'mark', keys: ['d'], run: (a) => a.settle('dismissed', false) },
  },
} satisfies ActionList<PieceActs>;
