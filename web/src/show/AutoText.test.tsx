import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { AutoText } from './AutoText';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const field = () => screen.getByRole('textbox') as HTMLTextAreaElement;
const state = () => screen.getByRole('status').textContent;
const type = (value: string) => fireEvent.change(field(), { target: { value } });
const pass = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

describe('a text that saves itself', () => {
  it('saves when the typing pauses, once', async () => {
    const save = vi.fn().mockResolvedValue(true);
    render(<AutoText label="Story" value="" className="" save={save} />);
    type('One');
    await pass(500);
    type('One two');
    expect(state()).toBe('typing');
    await pass(2000);
    expect(save).toHaveBeenCalledTimes(1);
    expect(save).toHaveBeenCalledWith('One two');
    expect(state()).toBe('');
  });

  it('saves at once when the field is left', async () => {
    const save = vi.fn().mockResolvedValue(true);
    render(<AutoText label="Story" value="Before" className="" save={save} />);
    type('After');
    fireEvent.blur(field());
    await pass(0);
    expect(save).toHaveBeenCalledWith('After');
  });

  it('saves nothing when nothing changed', async () => {
    const save = vi.fn().mockResolvedValue(true);
    render(<AutoText label="Story" value="Same" className="" save={save} />);
    fireEvent.blur(field());
    await pass(2000);
    expect(save).not.toHaveBeenCalled();
  });

  it('keeps the text and says so when it was refused', async () => {
    render(<AutoText label="Story" value="" className="" save={vi.fn().mockResolvedValue(false)} />);
    type('Mine');
    await pass(2000);
    expect(field().value).toBe('Mine');
    expect(state()).toBe('not saved yet: your text is still here');
  });

  it('follows a change from elsewhere when nothing is being typed, and keeps what is', async () => {
    const save = vi.fn().mockResolvedValue(false);
    const { rerender } = render(<AutoText label="Story" value="Old" className="" save={save} />);
    rerender(<AutoText label="Story" value="New" className="" save={save} />);
    expect(field().value).toBe('New');
    type('Mine');
    rerender(<AutoText label="Story" value="Theirs" className="" save={save} />);
    expect(field().value).toBe('Mine');
  });
});
