// @vitest-environment jsdom
import { textAt } from '@/api/waiting/writeTo';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { outgoing, type Outgoing } from '@/api/waiting/outgoing';
import type { Waiting } from '@/api/waiting/waiting';
import { AutoText } from './AutoText';

const path = textAt('/api/insights/{id}/story', { id: 3 });
let state: Outgoing;
const field = () => screen.getByRole('textbox') as HTMLTextAreaElement;
const status = () => screen.getByRole('status').textContent;
const waits = (now: string, more: Partial<Waiting> = {}): Waiting => ({
  order: 1,
  key: 'k',
  accountId: 1,
  method: 'PUT',
  path,
  field: path,
  body: null,
  what: 'Story',
  notBefore: 0,
  text: { was: '', now, tried: [] },
  ...more,
});
const show = (value: string) => render(<AutoText label="Story" value={value} path={path} what="Story" className="" />);

beforeEach(() => {
  state = { waiting: [], way: 'open' };
  vi.spyOn(outgoing, 'state').mockImplementation(() => state);
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

describe('a text that saves itself', () => {
  it('hands every letter on, with the text that was there', () => {
    const type = vi.spyOn(outgoing, 'type').mockResolvedValue();
    show('Before');
    fireEvent.change(field(), { target: { value: 'After' } });
    expect(type).toHaveBeenCalledWith(path, path, 'Story', 'Before', 'After', 900);
  });

  it('shows what waits rather than what the server has, and says where it is', () => {
    state = { waiting: [waits('Mine')], way: 'open' };
    show('Old');
    expect(field().value).toBe('Mine');
    expect(status()).toBe('saving …');
    cleanup();
    state = { waiting: [waits('Mine')], way: 'cut' };
    show('Old');
    expect(status()).toBe('kept in this browser, not sent yet');
  });

  it('shows another’s text when nothing waits', () => {
    const { rerender } = show('Old');
    rerender(<AutoText label="Story" value="New" path={path} what="Story" className="" />);
    expect(field().value).toBe('New');
    expect(status()).toBe('');
  });

  it('shows both versions when two people wrote it, and does what is chosen', () => {
    const choose = vi.spyOn(outgoing, 'choose').mockResolvedValue();
    state = { waiting: [waits('Mine', { clash: { sentence: 'Tom changed it.', theirs: 'Theirs' } })], way: 'open' };
    show('Theirs');
    expect(screen.getByRole('alert').textContent).toBe('Tom changed it.');
    fireEvent.click(screen.getByRole('button', { name: 'Keep mine' }));
    fireEvent.click(screen.getByRole('button', { name: 'Keep both, one under the other' }));
    fireEvent.click(screen.getByRole('button', { name: 'Keep theirs' }));
    expect(choose.mock.calls).toEqual([
      [1, 'Mine'],
      [1, 'Theirs\n\nMine'],
      [1, null],
    ]);
  });

  it('keeps a text that cannot be saved any more until it is dropped', () => {
    state = { waiting: [waits('Mine', { clash: { sentence: 'This insight is not here any more.', theirs: null } })], way: 'open' };
    show('');
    expect(screen.getAllByText('Mine').length).toBeGreaterThan(0);
    expect(screen.getByRole('button', { name: 'Drop it' })).toBeTruthy();
  });
});
