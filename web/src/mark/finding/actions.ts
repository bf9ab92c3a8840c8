import type { ActionList } from '@/parts/actions/actions';

/** What is done with passages that a search tagged. */
export interface FoundActs {
  /** Of the one that is looked at; null when there is none. */
  accept: (() => void) | null;
  drop: (() => void) | null;
  step: (by: 1 | -1) => void;
}

export const found = {
  title: 'Found, not reviewed',
  actions: {
    next: { name: 'Next passage', group: 'move', keys: ['ArrowDown'], run: (a) => a.step(1) },
    previous: { name: 'Previous passage', group: 'move', keys: ['ArrowUp'], run: (a) => a.step(-1) },
    accept: { name: 'Accept', group: 'mark', keys: ['a'], when: (a) => a.accept !== null, run: (a) => a.accept?.() },
    drop: { name: 'Drop', group: 'mark', keys: ['d'], when: (a) => a.drop !== null, run: (a) => a.drop?.() },
  },
} satisfies ActionList<FoundActs>;

/** An answer about a passage that is offered. A stance is a yes that lays it in the theme that is gathered for, too. */
export type Answer = 'yes' | 'no' | 'later' | 'supports' | 'contradicts' | 'context';

export interface MoreActs {
  answer: (what: Answer) => void;
  /** Whether it is gathered for a theme. */
  forTheme: boolean;
}

export const more = {
  title: 'Find more',
  actions: {
    yes: { name: 'Yes', says: 'it is the same: tag it', group: 'mark', keys: ['y'], run: (a) => a.answer('yes') },
    no: { name: 'No', says: 'it is not the same, and is not offered again', group: 'mark', keys: ['n'], run: (a) => a.answer('no') },
    later: { name: 'Later', says: 'decide about it later', group: 'mark', keys: ['l'], run: (a) => a.answer('later') },
    supports: {
      name: 'Yes, it supports',
      says: 'tag it, and put it in the theme: it supports the claim',
      group: 'mark',
      keys: ['f'],
      when: (a) => a.forTheme,
      run: (a) => a.answer('supports'),
    },
    contradicts: {
      name: 'Yes, it contradicts',
      says: 'tag it, and put it in the theme: it contradicts the claim',
      group: 'mark',
      keys: ['a'],
      when: (a) => a.forTheme,
      run: (a) => a.answer('contradicts'),
    },
    context: {
      name: 'Yes, it is context',
      says: 'tag it, and put it in the theme as context',
      group: 'mark',
      keys: ['c'],
      when: (a) => a.forTheme,
      run: (a) => a.answer('context'),
    },
  },
} satisfies ActionList<MoreActs>;

/** What is done with the passages that are chosen. */
export interface ChosenActs {
  tag: () => void;
  insight: () => void;
  none: () => void;
}

export const chosen = {
  title: 'With what is chosen',
  actions: {
    tag: { name: 'Tag', says: 'tag what is chosen', group: 'mark', keys: ['t'], run: (a) => a.tag() },
    insight: { name: 'Make an insight', group: 'mark', keys: ['i'], run: (a) => a.insight() },
    none: { name: 'Choose none', group: 'move', keys: ['Escape'], run: (a) => a.none() },
  },
} satisfies ActionList<ChosenActs>;

/** What is done with a row of what was found. */
export interface RowActs {
  step: (by: 1 | -1, chooses: boolean) => void;
  choose: (range: boolean) => void;
  all: () => void;
  open: () => void;
}

export const rows = {
  title: 'On a passage',
  actions: {
    next: {
      name: 'Next passage',
      says: 'the next passage; with Shift, choose it too',
      group: 'move',
      keys: ['ArrowDown'],
      run: (a, { shift }) => a.step(1, shift),
    },
    previous: {
      name: 'Previous passage',
      says: 'the one before; with Shift, choose it too',
      group: 'move',
      keys: ['ArrowUp'],
      run: (a, { shift }) => a.step(-1, shift),
    },
    choose: { name: 'Choose it', says: 'choose it; with Shift, all since the last one', group: 'mark', keys: [' '], run: (a, { shift }) => a.choose(shift) },
    all: { name: 'Choose all', group: 'mark', keys: ['a'], run: (a) => a.all() },
    open: { name: 'Open in place', group: 'go', keys: ['Enter'], run: (a) => a.open() },
  },
} satisfies ActionList<RowActs>;
