// @vitest-environment jsdom
import { render, screen } from '@testing-library/react';
import { beforeAll, expect, it, vi } from 'vitest';
import { LongList } from './LongList';

// jsdom lays nothing out: a window of 700 pixels, items of 70.
beforeAll(() => {
  const set = (name: string, get: () => number) => Object.defineProperty(HTMLElement.prototype, name, { configurable: true, get });
  set('clientHeight', () => 700);
  set('offsetHeight', () => 70);
});

const many = Array.from({ length: 100 }, (_, i) => i);
const list = (items: readonly number[], total: number, onNearEnd: () => void) => (
  <LongList label="Quotes" items={items} keyOf={(i) => i} height={70} total={total} onNearEnd={onNearEnd}>
    {(i) => <p>quote {i}</p>}
  </LongList>
);

it('only what is in view is in the page, and each item says which of how many it is', () => {
  render(list(many, 3_000, vi.fn()));
  const items = screen.getAllByRole('listitem');
  expect(items.length).toBeLessThan(40);
  expect(items[2]!.getAttribute('aria-posinset')).toBe('3');
  expect(items[2]!.getAttribute('aria-setsize')).toBe('3000');
});

it('asks for more only when the end of what is there comes near', () => {
  const asked = vi.fn();
  const { rerender } = render(list(many, 3_000, asked));
  expect(asked).not.toHaveBeenCalled();
  rerender(list(many.slice(0, 15), 3_000, asked));
  expect(asked).toHaveBeenCalled();
  asked.mockClear();
  rerender(list(many.slice(0, 15), 15, asked));
  expect(asked).not.toHaveBeenCalled();
});
