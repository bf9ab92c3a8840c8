import { digits, type ActionList, type Press } from '@/parts/actions/actions';
import type { Unit } from './moves';

const arrows: Record<string, readonly [Unit, on: boolean]> = {
  ArrowRight: ['word', true],
  ArrowLeft: ['word', false],
  ArrowDown: ['sentence', true],
  ArrowUp: ['sentence', false],
  PageDown: ['turn', true],
  PageUp: ['turn', false],
};
const units = { word: ['ArrowLeft', 'ArrowRight'], sentence: ['ArrowUp', 'ArrowDown'], turn: ['PageUp', 'PageDown'] };
const withShift = (keys: readonly string[]) => [...keys, ...keys.map((k) => `Shift+${k}`)];
const withAlt = (keys: readonly string[]) => [...keys.map((k) => `Alt+${k}`), ...keys.map((k) => `Alt+Shift+${k}`)];

/** What is done with the words of a source. Each tells by false that there was nothing to do it with. */
export interface MarkingActs {
  move: (unit: Unit, on: boolean, extend: boolean) => void;
  edge: (unit: Unit, on: boolean, edge: 'start' | 'end') => boolean;
  grow: () => boolean;
  shrink: () => void;
  unmarked: (on: boolean) => void;
  tag: () => boolean;
  again: () => void;
  pen: (number: number) => void;
  inTheirWords: () => boolean;
  mark: (on: boolean) => void;
  putIn: () => void;
  findMore: () => void;
  note: () => void;
  toNote: (on: boolean) => void;
  split: () => boolean;
  join: () => boolean;
  joinAll: () => boolean;
  unsure: () => boolean;
  star: () => boolean;
  card: () => boolean;
  copy: () => void;
  correct: () => void;
  remove: () => boolean;
  leave: () => boolean;
}

const moves = (a: MarkingActs, { key, shift }: Press) => a.move(...arrows[key]!, shift);
const edges = (a: MarkingActs, { key, shift }: Press) => a.edge(...arrows[key]!, shift ? 'start' : 'end');

export const marking: ActionList<MarkingActs> = {
  title: 'While marking',
  actions: {
    byWord: { name: 'Move by word', says: 'move by word; with Shift, select', group: 'move', keys: withShift(units.word), byKey: true, run: moves },
    bySentence: {
      name: 'Move by sentence',
      says: 'move by sentence; with Shift, select',
      group: 'move',
      keys: withShift(units.sentence),
      byKey: true,
      run: moves,
    },
    byTurn: { name: 'Move by turn', says: 'move by turn; with Shift, select', group: 'move', keys: withShift(units.turn), byKey: true, run: moves },
    grow: {
      name: 'Grow the selection',
      says: 'grow the selection: word, clause, sentence, turn, answer with its question',
      group: 'move',
      keys: ['g'],
      run: (a) => a.grow(),
    },
    shrink: { name: 'Shrink the selection', group: 'move', keys: ['G'], run: (a) => a.shrink() },
    nextUnmarked: { name: 'Next sentence that is not marked', group: 'move', keys: [')'], run: (a) => a.unmarked(true) },
    lastUnmarked: { name: 'Previous sentence that is not marked', group: 'move', keys: ['('], run: (a) => a.unmarked(false) },
    next: { name: 'Next mark', group: 'move', keys: [']'], run: (a) => a.mark(true) },
    previous: { name: 'Previous mark', group: 'move', keys: ['['], run: (a) => a.mark(false) },
    nextNote: { name: 'Next margin note', group: 'move', keys: ['n'], run: (a) => a.toNote(true) },
    previousNote: { name: 'Previous margin note', group: 'move', keys: ['N'], run: (a) => a.toNote(false) },
    tag: { name: 'Tag the selection', says: 'tag the selection, or the mark you are on', group: 'mark', keys: ['Enter'], run: (a) => a.tag() },
    again: { name: 'Give the last tags again', group: 'mark', keys: ['.'], run: (a) => a.again() },
    pen: {
      name: 'Mark with a pen',
      says: 'mark with the pen of that number; over a tag of the shelf, put it on that pen',
      group: 'mark',
      ...digits,
      run: (a, { key }) => a.pen(Number(key)),
    },
    inTheirWords: { name: 'Name a new tag with the selected words', group: 'mark', keys: ['"'], run: (a) => a.inTheirWords() },
    note: {
      name: 'Write a margin note',
      says: 'write a margin note on the selection, or on the sentence you are in',
      group: 'mark',
      keys: ['m'],
      run: (a) => a.note(),
    },
    putIn: {
      name: 'Put in a theme or an insight',
      says: 'put the selection, or the mark you are on, in a theme or an insight',
      group: 'mark',
      keys: ['t'],
      run: (a) => a.putIn(),
    },
    edgeByWord: {
      name: 'Move its end by word',
      says: 'move the end of the mark by word; with Shift, its beginning',
      group: 'mark',
      keys: withAlt(units.word),
      shown: 'Alt ← →',
      byKey: true,
      run: edges,
    },
    edgeBySentence: {
      name: 'Move its end by sentence',
      says: 'move the end of the mark by sentence; with Shift, its beginning',
      group: 'mark',
      keys: withAlt(units.sentence),
      shown: 'Alt ↑ ↓',
      byKey: true,
      run: edges,
    },
    edgeByTurn: {
      name: 'Move its end by turn',
      says: 'move the end of the mark by turn; with Shift, its beginning',
      group: 'mark',
      keys: withAlt(units.turn),
      shown: 'Alt PgUp PgDn',
      byKey: true,
      run: edges,
    },
    split: { name: 'Split the mark at the caret', group: 'mark', keys: ['x'], run: (a) => a.split() },
    join: { name: 'Join with the next mark', group: 'mark', keys: ['j'], run: (a) => a.join() },
    joinAll: { name: 'Join all that overlap and share a tag', group: 'mark', keys: ['J'], run: (a) => a.joinAll() },
    unsure: { name: 'Mark as unsure, or sure again', group: 'mark', keys: ['q'], run: (a) => a.unsure() },
    star: { name: 'Star the mark', group: 'mark', keys: ['s'], run: (a) => a.star() },
    card: { name: 'Open the mark', says: 'open the mark you are on: note, sentiment, trail', group: 'look', keys: ['e'], run: (a) => a.card() },
    copy: {
      name: 'Copy with who says it and where',
      says: 'copy the selection or the mark, with who says it and where',
      group: 'mark',
      // Pressed, it is the browser’s own copying, which the text answers.
      keys: ['Ctrl+c'],
      run: (a, { key }) => key === '' && a.copy(),
    },
    correct: {
      name: 'Correct the words',
      says: 'correct the words of the turn you are in',
      also: 'transcript edit',
      group: 'mark',
      keys: ['c'],
      run: (a) => a.correct(),
    },
    remove: { name: 'Remove the mark', also: 'delete', group: 'mark', keys: ['Delete'], run: (a) => a.remove() },
    leave: { name: 'Select nothing', group: 'move', keys: ['Escape'], run: (a) => a.leave() },
    findMore: { name: 'Find more like this', says: 'find more like the selection, or the mark you are on', group: 'go', keys: ['k'], run: (a) => a.findMore() },
  },
};

/** What is done with the page around a source. */
export interface SourceActs {
  step: (by: -1 | 1) => void;
  beside: () => void;
  show: () => void;
  focusMode: () => void;
  /** Whether both shelves are away. */
  away: boolean;
}

export const aroundSource: ActionList<SourceActs> = {
  title: 'Around the source',
  actions: {
    next: { name: 'Next source', group: 'go', keys: ['}'], run: (a) => a.step(1) },
    previous: { name: 'Previous source', group: 'go', keys: ['{'], run: (a) => a.step(-1) },
    beside: { name: 'Two sources side by side', says: 'two sources side by side, and back', group: 'look', keys: ['b'], run: (a) => a.beside() },
    show: { name: 'Choose which marks are shown', also: 'filter hide', group: 'look', keys: ['f'], run: (a) => a.show() },
    focusMode: {
      name: 'Nothing but the words',
      says: 'nothing but the words: both shelves away, and back; Escape brings them back too',
      also: 'focus mode shelves',
      group: 'look',
      keys: ['z'],
      run: (a) => a.focusMode(),
    },
    shelves: { name: 'Bring the shelves back', group: 'look', keys: ['Escape'], when: (a) => a.away, run: (a) => a.focusMode() },
  },
};

/** Finding in one source, if its pane is the one that is meant. */
export const finding: ActionList<{ find: () => boolean }> = {
  title: 'In the words',
  actions: {
    find: { name: 'Find words in this source', also: 'search', group: 'look', keys: ['/', 'Ctrl+f'], inFields: true, run: (a) => a.find() },
  },
};

/** What is done with a tag of the shelf, by keys while it is pointed at. */
export const shelf: ActionList<{ move: (key: string) => boolean; pen: (number: number) => void }> = {
  title: 'On a tag of the shelf',
  actions: {
    move: {
      name: 'Move the tag',
      says: 'move it among the tags beside it, under the one before it, out again',
      group: 'move',
      keys: ['Alt+ArrowUp', 'Alt+ArrowDown', 'Alt+ArrowRight', 'Alt+ArrowLeft'],
      shown: 'Alt ↑ ↓ → ←',
      byKey: true,
      run: (a, { key }) => a.move(key),
    },
    pen: {
      name: 'Put the tag on a pen',
      says: 'put it on the pen of that number',
      group: 'mark',
      ...digits,
      run: (a, { key }) => a.pen(Number(key)),
    },
  },
};
