import type { ActionList } from '@/parts/actions/actions';

/** What is done with what is chosen at the sorting table. */
export interface SortingActs {
  put: () => void;
  none: () => void;
}

export const sorting = {
  title: 'At the sorting table',
  actions: {
    choose: { name: 'Choose it', says: 'choose an observation or tag', group: 'mark', keys: [' '], byKey: true, run: () => false },
    put: { name: 'Put in a theme', says: 'put what is chosen in a theme', group: 'mark', keys: ['t'], run: (a) => a.put() },
    none: { name: 'Choose nothing', group: 'move', keys: ['Escape'], run: (a) => a.none() },
  },
} satisfies ActionList<SortingActs>;
