import type { ActionList } from '@/parts/actions/actions';

/** What is done with the margin notes that are chosen. */
export interface ChosenNotesActs {
  tag: () => void;
  none: () => void;
}

export const chosenNotes = {
  title: 'With the chosen notes',
  actions: {
    tag: { name: 'Put under a tag', group: 'mark', keys: ['t'], run: (a) => a.tag() },
    none: { name: 'Choose none', group: 'move', keys: ['Escape'], run: (a) => a.none() },
  },
} satisfies ActionList<ChosenNotesActs>;
