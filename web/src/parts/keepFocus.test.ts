// @vitest-environment jsdom
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { keepFocus, pageArrived } from './keepFocus';

let end = () => {};
beforeEach(() => {
  // jsdom lays nothing out: everything is shown.
  vi.spyOn(HTMLElement.prototype, 'getClientRects').mockReturnValue([{}] as unknown as DOMRectList);
  vi.useFakeTimers();
  end = keepFocus();
});
afterEach(() => {
  end();
  vi.useRealTimers();
  vi.restoreAllMocks();
  document.body.innerHTML = '';
});

const draw = async (html: string) => {
  document.body.innerHTML = html;
  await vi.advanceTimersByTimeAsync(10);
};
const press = (key: string) => {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
  // Events tell the time of the clock that is held here.
  Object.defineProperty(event, 'timeStamp', { value: performance.now() });
  document.activeElement!.dispatchEvent(event);
};
const focused = () => document.activeElement!.id || document.activeElement!.tagName;

it('keys pressed while a page comes in are taken by what the page is for, once and in order', async () => {
  await draw('<main></main>');
  pageArrived();
  await vi.advanceTimersByTimeAsync(10);
  press('j');
  await vi.advanceTimersByTimeAsync(900);
  press('k');
  await draw('<main><p>It comes in.</p></main>');
  const taken: string[] = [];
  document.addEventListener('keydown', (e) => (e.target as HTMLElement).id === 'words' && taken.push(e.key));
  await draw('<main><div id="words" data-takes-keys tabindex="0"></div></main>');
  expect(focused()).toBe('words');
  expect(taken).toEqual(['j', 'k']);
  press('j');
  expect(taken).toEqual(['j', 'k', 'j']);
});

it('a key that was pressed long ago, and one that something else has taken, are not given again', async () => {
  await draw('<main></main>');
  pageArrived();
  await vi.advanceTimersByTimeAsync(10);
  press('o');
  await vi.advanceTimersByTimeAsync(6000);
  const take = (e: KeyboardEvent) => e.preventDefault();
  document.body.addEventListener('keydown', take);
  press('n');
  document.body.removeEventListener('keydown', take);
  const taken: string[] = [];
  document.addEventListener('keydown', (e) => (e.target as HTMLElement).id === 'words' && taken.push(e.key));
  await draw('<main><div id="words" data-takes-keys tabindex="0"></div></main>');
  expect(focused()).toBe('words');
  expect(taken).toEqual([]);
});

it('what is drawn anew, and what stands in the place of what is gone, has the focus', async () => {
  await draw('<main><ul><li><button id="a">one</button></li><li><button id="b">two</button></li></ul></main>');
  document.getElementById('b')!.focus();
  const list = document.querySelector('ul')!;
  list.innerHTML = '<li><button id="c">one</button></li><li><button id="d">two</button></li>';
  await vi.advanceTimersByTimeAsync(10);
  expect(focused()).toBe('d');
  document.getElementById('d')!.parentElement!.remove();
  await vi.advanceTimersByTimeAsync(10);
  expect(focused()).toBe('c');
});
