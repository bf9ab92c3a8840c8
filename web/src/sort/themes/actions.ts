import type { Schemas } from '@/api/client';
import type { ActionList } from '@/parts/actions/actions';

/** What is done with what is chosen at the sorting table. */
export interface SortingActs {
  any: boolean;
  observations: boolean;
  all: () => void;
  put: () => void;
  /** Of pieces of themes; null where none is chosen. */
  move: (() => void) | null;
  make: () => void;
  leaveOut: () => void;
  suggest: () => void;
  /** Null where nothing is new. */
  seen: (() => void) | null;
  none: () => void;
}

export const sorting = {
  title: 'At the sorting table',
  actions: {
    choose: { name: 'Choose it', says: 'choose an observation or tag', group: 'mark', keys: [' '], byKey: true, run: () => false },
    all: { name: 'Choose all shown', group: 'mark', keys: ['Ctrl+a'], run: (a) => a.all() },
    put: { name: 'Put in a theme', says: 'put what is chosen in a theme', group: 'mark', keys: ['t'], when: (a) => a.any, run: (a) => a.put() },
    move: {
      name: 'Move to a theme',
      says: 'move the chosen pieces out of their themes into another',
      group: 'mark',
      keys: ['T'],
      when: (a) => a.move !== null,
      run: (a) => a.move?.(),
    },
    make: { name: 'New theme', says: 'make a theme, of what is chosen', group: 'mark', keys: ['n'], run: (a) => a.make() },
    leaveOut: {
      name: 'Leave out',
      says: 'leave what is chosen out of all themes on purpose, or take it back',
      group: 'mark',
      keys: ['x'],
      when: (a) => a.observations,
      run: (a) => a.leaveOut(),
    },
    suggest: {
      name: 'Suggest …',
      says: 'ask for suggestions, for what is chosen or for all',
      also: 'help cluster',
      group: 'mark',
      keys: ['s'],
      run: (a) => a.suggest(),
    },
    seen: { name: 'Seen', says: 'what is new was looked at', group: 'look', keys: ['v'], when: (a) => a.seen !== null, run: (a) => a.seen?.() },
    none: { name: 'Choose nothing', group: 'move', keys: ['Escape'], when: (a) => a.any, run: (a) => a.none() },
  },
} satisfies ActionList<SortingActs>;

/** What is done with the theme that has the focus. */
export interface ThemeActs {
  open: () => void;
  sub: () => void;
  merge: () => void;
  move: (where: 'up' | 'down' | 'in' | 'out') => void;
}

export const theme = {
  title: 'On a theme',
  actions: {
    open: { name: 'Open its page', group: 'go', keys: ['Enter'], run: (a) => a.open() },
    sub: { name: 'New sub-theme', group: 'mark', keys: ['b'], run: (a) => a.sub() },
    merge: { name: 'Merge into another', group: 'mark', keys: ['m'], run: (a) => a.merge() },
    up: { name: 'Move up', group: 'move', keys: ['Alt+ArrowUp'], run: (a) => a.move('up') },
    down: { name: 'Move down', group: 'move', keys: ['Alt+ArrowDown'], run: (a) => a.move('down') },
    in: { name: 'Move under the one before', group: 'move', keys: ['Alt+ArrowRight'], run: (a) => a.move('in') },
    out: { name: 'Move out, beside the one above', group: 'move', keys: ['Alt+ArrowLeft'], run: (a) => a.move('out') },
  },
} satisfies ActionList<ThemeActs>;

/** What is done with the piece of a theme that has the focus. */
export interface PieceActs {
  laid: boolean;
  /** Null where pieces are not chosen. */
  choose: (() => void) | null;
  stance: (stance: Schemas['Stance']) => void;
  remove: () => void;
  step: (by: 1 | -1) => void;
}

export const pieces = {
  title: 'On a piece of a theme',
  actions: {
    choose: {
      name: 'Choose it',
      says: 'choose the piece, to move it with others',
      group: 'mark',
      keys: [' '],
      when: (a) => a.choose !== null,
      run: (a) => a.choose?.(),
    },
    supports: { name: 'It supports the claim', also: 'stance for', group: 'mark', keys: ['f'], run: (a) => a.stance('supports') },
    contradicts: { name: 'It contradicts the claim', also: 'stance against', group: 'mark', keys: ['a'], run: (a) => a.stance('contradicts') },
    context: { name: 'It is context', also: 'stance', group: 'mark', keys: ['c'], run: (a) => a.stance('context') },
    remove: { name: 'Remove it from the theme', group: 'mark', keys: ['Delete'], when: (a) => a.laid, run: (a) => a.remove() },
    next: { name: 'Next piece', group: 'move', keys: ['j', 'ArrowDown'], run: (a) => a.step(1) },
    before: { name: 'Piece before', group: 'move', keys: ['k', 'ArrowUp'], run: (a) => a.step(-1) },
  },
} satisfies ActionList<PieceActs>;
