import { digits, type ActionList } from '@/parts/actions/actions';

/** What is done with the observation on the stand. */
export interface SplittingActs {
  send: (number: number) => void;
  sendChosen: (() => void) | null;
  unsure: () => void;
  wide: () => void;
  back: () => void;
  turn: (by: 1 | -1) => void;
  newTray: () => void;
  many: () => void;
  leave: () => void;
}

export const splitting = {
  title: 'At the split desk',
  actions: {
    tray: {
      name: 'Send it to a tray',
      says: 'send it to that tray; where it may go to several, choose the tray',
      group: 'mark',
      ...digits,
      run: (a, { key }) => a.send(Number(key)),
    },
    send: {
      name: 'Send it',
      says: 'send it to the chosen trays',
      group: 'mark',
      keys: ['Enter'],
      when: (a) => a.sendChosen !== null,
      run: (a) => a.sendChosen?.(),
    },
    unsure: { name: 'Not sure', says: 'not sure: look at it again later', group: 'mark', keys: ['q'], run: (a) => a.unsure() },
    wide: { name: 'Stays wide', says: 'it stays on the wide tag', group: 'mark', keys: ['0'], run: (a) => a.wide() },
    back: { name: 'Back one', says: 'take back what was decided last', group: 'mark', keys: ['Backspace'], shown: '⌫', run: (a) => a.back() },
    newTray: { name: 'A new tray', says: 'put narrower tags on keys', group: 'mark', keys: ['n'], run: (a) => a.newTray() },
    many: { name: 'All with a word, or of a person …', says: 'many at once: with a word, or of a person', group: 'mark', keys: ['a'], run: (a) => a.many() },
    next: { name: 'The one behind', group: 'move', keys: ['ArrowRight'], run: (a) => a.turn(1) },
    previous: { name: 'The one before', group: 'move', keys: ['ArrowLeft'], run: (a) => a.turn(-1) },
    leave: { name: 'Leave it for now', group: 'go', keys: ['Escape'], run: (a) => a.leave() },
  },
} satisfies ActionList<SplittingActs>;
