import type { ActionList } from '@/parts/actions/actions';

/** What is done with the passages on which two people differ. */
export interface DifferingActs {
  step: (by: 1 | -1) => void;
  /** Sharpens the definition of the tag that is looked at; null while none is. */
  define: (() => void) | null;
}

export const differing = {
  title: 'Where they differ',
  actions: {
    next: { name: 'Go on', says: 'to the next passage on which they differ', group: 'move', keys: [']'], run: (a) => a.step(1) },
    previous: { name: 'Go back', says: 'to the passage before', group: 'move', keys: ['['], run: (a) => a.step(-1) },
    define: { name: 'Sharpen the definition', group: 'mark', keys: ['d'], when: (a) => a.define !== null, run: (a) => a.define?.() },
  },
} satisfies ActionList<DifferingActs>;

/** Settles the passage that has the focus, by the number of what was come to. */
export const settling = {
  title: 'On a passage',
  actions: {
    settle: {
      name: 'Settle it',
      says: 'settle it: the first’s, the second’s, both, neither, talk about it',
      group: 'mark',
      keys: ['1', '2', '3', '4', '5'],
      shown: '1 … 5',
      byKey: true,
      run: (settle, { key }) => settle(key),
    },
  },
} satisfies ActionList<(key: string) => void>;
