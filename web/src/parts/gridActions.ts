import type { ActionList, Press } from './actions/actions';

/** What is done in a grid of values. */
export interface GridActs {
  move: (press: Press) => void;
  edit: () => void;
  empty: () => void;
  one: () => void;
  fillDown: () => void;
  all: () => void;
}

const leads = ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Home', 'End', 'PageUp', 'PageDown'];
/** Taken by the field that is open, or by the browser’s own copying, which the grid answers. */
const elsewhere = () => false;

export const grid = {
  title: 'In the table',
  actions: {
    move: {
      name: 'Another cell',
      says: 'go to another cell; with Shift, choose many; with Ctrl, to the end',
      group: 'move',
      keys: ['', 'Shift+', 'Ctrl+', 'Ctrl+Shift+'].flatMap((held) => leads.map((key) => `${held}${key}`)),
      shown: '← → ↑ ↓',
      byKey: true,
      run: (a, press) => a.move(press),
    },
    one: { name: 'Choose only this cell', group: 'move', keys: ['Escape'], run: (a) => a.one() },
    all: { name: 'Choose all cells', group: 'move', keys: ['Ctrl+a'], run: (a) => a.all() },
    type: { name: 'Write into the cell', says: 'write into the cell you are on', group: 'mark', keys: [], shown: 'type', byKey: true, run: elsewhere },
    edit: { name: 'Change what is in the cell', group: 'mark', keys: ['Enter', 'F2'], run: (a) => a.edit() },
    writeAll: {
      name: 'Write into all that is chosen',
      says: 'write what you typed into all that is chosen',
      group: 'mark',
      keys: [],
      shown: 'Ctrl Enter',
      byKey: true,
      run: elsewhere,
    },
    fillDown: { name: 'Fill down', says: 'fill down from the first row that is chosen', group: 'mark', keys: ['Ctrl+d'], run: (a) => a.fillDown() },
    paste: {
      name: 'Copy and paste cells',
      says: 'copy and paste blocks, also from a spreadsheet',
      group: 'mark',
      keys: [],
      shown: 'Ctrl C  Ctrl V',
      byKey: true,
      run: elsewhere,
    },
    empty: { name: 'Empty', says: 'empty what is chosen', group: 'mark', keys: ['Delete', 'Backspace'], shown: 'Del', run: (a) => a.empty() },
  },
} satisfies ActionList<GridActs>;
