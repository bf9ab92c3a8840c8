import type { ActionList } from '@/parts/actions/actions';

/** What is done with a source of the list by keys. */
export const sourceRows = {
  title: 'In the list of sources',
  actions: {
    choose: {
      name: 'Choose it',
      says: 'Tab goes to the box of a source; Space chooses it',
      group: 'mark',
      keys: [],
      shown: 'Space',
      byKey: true,
      run: () => false,
    },
    up: { name: 'Move up in its folder', group: 'mark', keys: ['Alt+ArrowUp'], run: (step) => step(-1) },
    down: { name: 'Move down in its folder', group: 'mark', keys: ['Alt+ArrowDown'], run: (step) => step(1) },
  },
} satisfies ActionList<(by: 1 | -1) => void>;
