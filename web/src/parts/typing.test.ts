// @vitest-environment jsdom
import { expect, it } from 'vitest';
import { typing } from './typing';

const made = (html: string) => {
  const host = document.createElement('div');
  host.innerHTML = html;
  return host.firstElementChild;
};

it.each(['<input>', '<input type="search">', '<textarea></textarea>', '<select></select>'])('takes no key from %s', (html) =>
  expect(typing(made(html))).toBe(true),
);
it.each(['<input type="checkbox">', '<input type="radio">', '<button></button>', '<div tabindex="0"></div>'])('lets shortcuts work on %s', (html) =>
  expect(typing(made(html))).toBe(false),
);
it('knows that nothing is nothing', () => expect(typing(null)).toBe(false));
