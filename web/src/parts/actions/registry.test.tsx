// @vitest-environment jsdom
import { act, useRef } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { ActionList } from './actions';
import { announced, usePageActions, usePartActions } from './registry';

const bar: ActionList<() => void> = { title: 'With what is chosen', actions: { tag: { name: 'Tag', group: 'mark', keys: ['t'], run: (on) => on() } } };
const words: ActionList<(what: string) => unknown> = {
  title: 'In the words',
  actions: {
    star: { name: 'Star', group: 'mark', keys: ['s'], run: (on) => on('star') },
    play: { name: 'Play', group: 'look', keys: ['Alt+p', 'p'], inFields: true, run: (on) => on('play') },
  },
};

function Bar({ onTag }: { onTag: (() => void) | null }) {
  usePageActions(bar, onTag);
  return <p>2 passages chosen</p>;
}
function Words({ called, on }: { called: string; on: (what: string) => unknown }) {
  const root = useRef<HTMLDivElement>(null);
  const keys = usePartActions(words, on, root);
  return (
    <div ref={root} onKeyDown={keys}>
      <button type="button">{called}</button>
      <input aria-label={`${called} note`} />
    </div>
  );
}

let place: HTMLElement;
let root: Root;
beforeEach(() => {
  vi.stubGlobal('IS_REACT_ACT_ENVIRONMENT', true);
  place = document.body.appendChild(document.createElement('div'));
  root = createRoot(place);
});
afterEach(() => {
  vi.stubGlobal('IS_REACT_ACT_ENVIRONMENT', true);
  act(() => root.unmount());
  place.remove();
  vi.unstubAllGlobals();
});
const press = (on: Element, key: string, held: KeyboardEventInit = {}) => {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...held });
  act(() => void on.dispatchEvent(event));
  return event.defaultPrevented;
};

it('a key pressed the moment something is seen is taken by it', async () => {
  // Outside of act, as in a browser: what React does after painting has not been done when the page changes.
  vi.stubGlobal('IS_REACT_ACT_ENVIRONMENT', false);
  const onTag = vi.fn();
  const seen = new Promise<void>((resolve) => {
    const observer = new MutationObserver(() => {
      observer.disconnect();
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 't', bubbles: true, cancelable: true }));
      resolve();
    });
    observer.observe(place, { childList: true });
  });
  root.render(<Bar onTag={onTag} />);
  await seen;
  expect(onTag).toHaveBeenCalledOnce();
});

it('what stands on the page is known, can be done by its name, and is gone with it', () => {
  const onTag = vi.fn();
  act(() => root.render(<Bar onTag={onTag} />));
  const [list] = announced();
  expect(list!.title).toBe(bar.title);
  list!.actions[0]!.run!();
  expect(onTag).toHaveBeenCalledOnce();
  act(() => root.render(<Bar onTag={null} />));
  expect(announced()[0]!.actions[0]!.run).toBeNull();
  act(() => root.render(null));
  expect(announced()).toEqual([]);
});

it('while nothing can be done, a key is left alone', () => {
  act(() => root.render(<Bar onTag={null} />));
  expect(press(document.body, 't')).toBe(false);
});

it('an action that found nothing to do leaves the key to the page', () => {
  act(() => root.render(<Words called="first" on={() => false} />));
  expect(press(place.querySelector('button')!, 's')).toBe(false);
});

it('a field keeps its letters; with Alt the player goes on', () => {
  const on = vi.fn();
  act(() => root.render(<Words called="first" on={on} />));
  const field = place.querySelector('input')!;
  expect(press(field, 's')).toBe(false);
  expect(press(field, 'p')).toBe(false);
  expect(press(field, 'p', { altKey: true, code: 'KeyP' })).toBe(true);
  expect(on.mock.calls).toEqual([['play']]);
});

it('of two parts of a kind the one that was used last is meant', () => {
  const [first, second] = [vi.fn(), vi.fn()];
  act(() =>
    root.render(
      <>
        <Words called="first" on={first} />
        <Words called="second" on={second} />
      </>,
    ),
  );
  const star = () => announced().flatMap((l) => l.actions)[0]!.run!();
  place.querySelectorAll('button')[1]!.focus();
  star();
  place.querySelectorAll('button')[0]!.focus();
  star();
  expect([first.mock.calls.length, second.mock.calls.length]).toEqual([1, 1]);
  expect(announced()).toHaveLength(1);
});
