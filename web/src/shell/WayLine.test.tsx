// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { outgoing, type Outgoing } from '@/api/waiting/outgoing';
import type { Waiting } from '@/api/waiting/waiting';
import { WayLine } from './WayLine';

let state: Outgoing;
const waits = (what: string, more: Partial<Waiting> = {}): Waiting => ({
  order: 1,
  key: what,
  accountId: 1,
  method: 'POST',
  path: '/api/x',
  body: null,
  what,
  notBefore: 0,
  ...more,
});

beforeEach(() => {
  vi.spyOn(outgoing, 'state').mockImplementation(() => state);
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

describe('the line about the way to the server', () => {
  it('is not there while all is well, whatever is being sent', () => {
    state = { way: 'open', waiting: [waits('Mark')] };
    expect(render(<WayLine />).container.textContent).toBe('');
  });

  it('says that one can go on, and what waits, and lets it not be sent', () => {
    const drop = vi.spyOn(outgoing, 'drop').mockResolvedValue();
    state = { way: 'cut', waiting: [] };
    const { rerender } = render(<WayLine />);
    expect(screen.getByRole('status').textContent).toContain('Go on: what you mark and write is kept');
    state = { way: 'cut', waiting: [waits('Mark “one”'), waits('Star', { order: 2 })] };
    rerender(<WayLine key="again" />);
    expect(screen.getByRole('status').textContent).toContain('2 steps kept in this browser');
    fireEvent.click(screen.getByRole('button', { name: 'What waits' }));
    fireEvent.click(screen.getAllByRole('button', { name: 'Do not send' })[1]!);
    expect(drop).toHaveBeenCalledWith(2);
  });

  it('tries at once when asked', () => {
    const now = vi.spyOn(outgoing, 'tryNow').mockReturnValue();
    state = { way: 'cut', waiting: [] };
    render(<WayLine />);
    fireEvent.click(screen.getByRole('button', { name: 'Try now' }));
    expect(now).toHaveBeenCalledOnce();
  });

  it('stays while there are two versions of a text to choose from', () => {
    state = { way: 'open', waiting: [waits('Story', { text: { was: '', now: 'mine', tried: [] }, clash: { sentence: 'Tom changed it.', theirs: 'theirs' } })] };
    render(<WayLine />);
    fireEvent.click(screen.getByRole('button', { name: '1 text to choose a version of' }));
    expect(screen.getByRole('region', { name: 'Two versions' }).textContent).toContain('theirs');
  });
});
