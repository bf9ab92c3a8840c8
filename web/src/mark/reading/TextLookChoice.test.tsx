// @vitest-environment jsdom
import { fireEvent, render, screen } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { TextLookChoice } from './TextLookChoice';

it('how the words are set is chosen by arrows', async () => {
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
  render(<TextLookChoice />);
  fireEvent.click(screen.getByRole('button', { name: 'text' }));
  const chosen = () => screen.getByRole('radiogroup', { name: 'Size' }).querySelector('[aria-checked="true"]')!;
  expect(chosen().textContent).toBe('m');
  (chosen() as HTMLElement).focus();
  // Pressed and let go before the focus has moved.
  fireEvent.keyDown(chosen(), { key: 'ArrowRight' });
  fireEvent.keyUp(chosen(), { key: 'ArrowRight' });
  await vi.waitFor(() => expect(chosen().textContent).toBe('l'), { timeout: 4000 });
  expect(document.activeElement).toBe(chosen());
});
