import type { ActionList, Press } from '@/parts/actions/actions';

/** What is done with a tag or a bundle, wherever it is looked at; null where it cannot be done. */
export interface TagActs {
  isBundle: boolean;
  retired: boolean;
  define: () => void;
  merge: () => void;
  split: (() => void) | null;
  more: (() => void) | null;
  bundle: () => void;
  retire: () => void;
  comeBack: () => void;
  page: (() => void) | null;
  inAllStudies: (() => void) | null;
  propose: (() => void) | null;
}

export const ofTag = {
  title: 'With the tag',
  actions: {
    define: { name: 'Define', says: 'what it is and is not, and all else of it', also: 'edit', group: 'mark', keys: ['e'], run: (a) => a.define() },
    merge: {
      name: 'Merge into …',
      says: 'merge it, or those that are chosen; with Shift, a drop merges too',
      group: 'mark',
      keys: ['m'],
      run: (a) => a.merge(),
    },
    split: { name: 'Split …', says: 'in a study: split it', group: 'mark', keys: ['s'], when: (a) => a.split !== null, run: (a) => a.split?.() },
    more: { name: 'Find more', group: 'go', keys: [], when: (a) => a.more !== null, run: (a) => a.more?.() },
    fill: { name: 'Put tags in it …', group: 'mark', keys: ['b'], when: (a) => a.isBundle, run: (a) => a.bundle() },
    bundle: { name: 'Put in a bundle …', group: 'mark', keys: ['b'], when: (a) => !a.isBundle, run: (a) => a.bundle() },
    comeBack: { name: 'Bring it back', group: 'mark', keys: [], when: (a) => a.retired, run: (a) => a.comeBack() },
    retire: { name: 'Retire …', says: 'retire it, or delete it', group: 'mark', keys: ['r'], when: (a) => !a.retired, run: (a) => a.retire() },
    page: { name: 'Its page', group: 'go', keys: [], when: (a) => a.page !== null, run: (a) => a.page?.() },
    inAllStudies: { name: 'In all studies', group: 'go', keys: [], when: (a) => a.inAllStudies !== null, run: (a) => a.inAllStudies?.() },
    propose: { name: 'Propose for all studies …', group: 'mark', keys: [], when: (a) => a.propose !== null, run: (a) => a.propose?.() },
  },
} satisfies ActionList<TagActs>;

/** What is done with the tag set around its lines. */
export interface TagSetActs {
  find: () => void;
  /** Chooses none and cuts none; null while nothing is chosen or cut. */
  none: (() => void) | null;
}

export const aroundTagSet = {
  title: 'In the tag set',
  actions: {
    find: { name: 'Find a tag', group: 'look', keys: ['/'], run: (a) => a.find() },
    none: { name: 'Choose none', group: 'move', keys: ['Escape'], when: (a) => a.none !== null, run: (a) => a.none?.() },
  },
} satisfies ActionList<TagSetActs>;

/** What is done with the line of the tree that is selected. Each tells by false that there was nothing to do. */
export interface TreeActs {
  go: (by: number | 'first' | 'last', chooses: boolean) => void;
  unfold: () => boolean;
  fold: () => boolean;
  place: (key: string) => boolean;
  otherSide: () => void;
  cut: () => void;
  paste: () => boolean;
  choose: () => boolean;
  rename: () => boolean;
  define: () => boolean;
}

const place = (a: TreeActs, { key }: Press) => a.place(key);

export const tree = {
  title: 'In the tree',
  actions: {
    down: { name: 'Next line', says: 'the next line; with Shift it is chosen too', group: 'move', keys: ['ArrowDown'], run: (a, { shift }) => a.go(1, shift) },
    up: { name: 'Line before', says: 'the line before; with Shift it is chosen too', group: 'move', keys: ['ArrowUp'], run: (a, { shift }) => a.go(-1, shift) },
    first: { name: 'First line', group: 'move', keys: ['Home'], run: (a, { shift }) => a.go('first', shift) },
    last: { name: 'Last line', group: 'move', keys: ['End'], run: (a, { shift }) => a.go('last', shift) },
    unfold: { name: 'Open what is under it', group: 'look', keys: ['ArrowRight'], run: (a) => a.unfold() },
    fold: { name: 'Close what is under it', group: 'look', keys: ['ArrowLeft'], run: (a) => a.fold() },
    move: {
      name: 'Move',
      says: 'move it among those beside it',
      group: 'mark',
      keys: ['Alt+ArrowUp', 'Alt+ArrowDown'],
      shown: 'Alt ↑ ↓',
      byKey: true,
      run: place,
    },
    under: { name: 'Under the one above', group: 'mark', keys: ['Alt+ArrowRight'], byKey: true, run: place },
    out: { name: 'Out', says: 'out of what it is under', group: 'mark', keys: ['Alt+ArrowLeft'], byKey: true, run: place },
    otherSide: {
      name: 'To the other side',
      says: 'from the loose pile under the line of the frame that was selected last; or to the pile',
      group: 'mark',
      keys: ['o'],
      run: (a) => a.otherSide(),
    },
    rename: { name: 'Rename', group: 'mark', keys: ['F2'], run: (a) => a.rename() },
    choose: { name: 'Choose', group: 'mark', keys: [' '], run: (a) => a.choose() },
    cut: { name: 'Cut', group: 'mark', keys: ['Ctrl+x'], run: (a) => a.cut() },
    paste: { name: 'Put under the selected line', says: 'put what was cut under the selected line', group: 'mark', keys: ['Ctrl+v'], run: (a) => a.paste() },
    define: { name: 'Define', group: 'mark', keys: ['Enter'], run: (a) => a.define() },
  },
} satisfies ActionList<TreeActs>;

/** What is done with two tags that look alike; null while none are looked at. */
export interface LookAlikeActs {
  step: (by: 1 | -1) => void;
  merge: (() => void) | null;
  nest: (() => void) | null;
  keepApart: (() => void) | null;
}

export const lookAlikes = {
  title: 'Look-alikes',
  actions: {
    next: { name: 'Next pair', group: 'move', keys: ['ArrowDown'], run: (a) => a.step(1) },
    previous: { name: 'Pair before', group: 'move', keys: ['ArrowUp'], run: (a) => a.step(-1) },
    merge: { name: 'Merge', group: 'mark', keys: ['m'], when: (a) => a.merge !== null, run: (a) => a.merge?.() },
    nest: { name: 'Put under', says: 'put the second under the first', group: 'mark', keys: ['n'], when: (a) => a.nest !== null, run: (a) => a.nest?.() },
    keepApart: {
      name: 'Keep apart',
      says: 'keep them apart for good',
      group: 'mark',
      keys: ['k'],
      when: (a) => a.keepApart !== null,
      run: (a) => a.keepApart?.(),
    },
  },
} satisfies ActionList<LookAlikeActs>;
