import { describe, expect, it, vi } from 'vitest';
import { actionOf, chordOf, keysShown, type Action, type ActionList } from './actions';

const key = (key: string, held: Partial<KeyboardEvent> = {}) =>
  ({ key, code: '', shiftKey: false, ctrlKey: false, metaKey: false, altKey: false, ...held }) as KeyboardEvent;
const modules = import.meta.glob<Record<string, unknown>>(['../../**/actions.ts', '../gridActions.ts', '!./actions.ts'], { eager: true });
const isList = (value: unknown): value is ActionList<never> => typeof value === 'object' && value !== null && 'title' in value && 'actions' in value;
const lists = Object.entries(modules).flatMap(([file, module]) =>
  Object.values(module)
    .filter(isList)
    .map((list) => ({ file, list })),
);

it('a key is written with what is held down', () => {
  expect(chordOf(key('g'))).toBe('g');
  expect(chordOf(key('G', { shiftKey: true }))).toBe('G');
  expect(chordOf(key('ArrowUp', { shiftKey: true }))).toBe('Shift+ArrowUp');
  expect(chordOf(key('Z', { ctrlKey: true, shiftKey: true }))).toBe('Ctrl+Shift+z');
  expect(chordOf(key('k', { metaKey: true }))).toBe('Ctrl+k');
});

it('with Alt the place of a key counts, not the letter that Alt writes there', () => {
  expect(chordOf(key('¬', { altKey: true, code: 'KeyL' }))).toBe('Alt+l');
  expect(chordOf(key('\u00a0', { altKey: true, code: 'Space' }))).toBe('Alt+ ');
});

it('what has no meaning of its own with Shift means the same without it', () => {
  const one: Action<null> = { name: 'On', group: 'move', keys: ['ArrowRight'], run: vi.fn() };
  const finely: Action<null> = { name: 'On finely', group: 'move', keys: ['Shift+ArrowRight'], run: vi.fn() };
  expect(actionOf({ one }, null, key('ArrowRight', { shiftKey: true }))).toBe(one);
  expect(actionOf({ one, finely }, null, key('ArrowRight', { shiftKey: true }))).toBe(finely);
  expect(actionOf({ one }, null, key('ArrowRight', { altKey: true }))).toBeUndefined();
  const find: Action<null> = { name: 'Find', group: 'look', keys: ['Ctrl+f'], run: vi.fn() };
  expect(actionOf({ find }, null, key('F', { ctrlKey: true, shiftKey: true }))).toBeUndefined();
});

it('of two actions on a key the one that can be done now counts', () => {
  const full: Action<boolean> = { name: 'Empty it', group: 'mark', keys: ['b'], when: (isFull) => isFull, run: vi.fn() };
  const empty: Action<boolean> = { name: 'Fill it', group: 'mark', keys: ['b'], when: (isFull) => !isFull, run: vi.fn() };
  expect(actionOf({ full, empty }, false, key('b'))).toBe(empty);
});

it('keys are written as they stand on a keyboard', () => {
  expect(keysShown({ keys: ['Ctrl+z'] })).toBe('Ctrl Z');
  expect(keysShown({ keys: ['ArrowLeft', 'ArrowRight', 'Shift+ArrowLeft', 'Shift+ArrowRight'] })).toBe('←  →');
  expect(keysShown({ keys: ['+'] })).toBe('+');
  expect(keysShown({ keys: [], shown: 'Ctrl C  Ctrl V' })).toBe('Ctrl C  Ctrl V');
});

describe.each(lists.map(({ file, list }) => [`${file}: ${list.title}`, list] as const))('%s', (_, list) => {
  const actions = Object.values(list.actions);

  it('no key does two things at once', () => {
    for (const [i, one] of actions.entries())
      for (const other of actions.slice(i + 1)) {
        const both = one.keys.filter((k) => other.keys.includes(k));
        if (both.length > 0) expect([one.when, other.when], `${both.join()}: ${one.name}, ${other.name}`).not.toContain(undefined);
      }
  });

  it('each has a name of its own, which begins with a capital and fits a button', () => {
    expect(new Set(actions.map((a) => a.name)).size).toBe(actions.length);
    for (const { name } of actions) expect(name).toMatch(/^[A-Z0-9].{1,44}$/u);
  });
});

it('keys of every page are taken by no page', () => {
  const everywhere = lists.find(({ list }) => list.last)!.list;
  const taken = new Set(Object.values(everywhere.actions).flatMap((a) => a.keys));
  for (const { file, list } of lists)
    if (!list.last)
      for (const action of Object.values(list.actions))
        expect(
          action.keys.filter((k) => taken.has(k)),
          `${file}: ${action.name}`,
        ).toEqual([]);
});
