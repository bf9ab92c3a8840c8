// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { ChangedMeanwhile } from './ChangedMeanwhile';

afterEach(cleanup);

describe('what someone else wrote while a form was open', () => {
  it('is shown beside one’s own, and can be taken', () => {
    const take = vi.fn();
    render(<ChangedMeanwhile texts={[{ label: 'Definition', was: 'Old', now: 'Theirs', mine: 'Mine', take }]} />);
    expect(screen.getByRole('alert').textContent).toContain('Saving keeps what you have');
    fireEvent.click(screen.getByRole('button', { name: 'Take theirs' }));
    expect(take).toHaveBeenCalledWith('Theirs');
  });

  it('is nothing when they wrote nothing else, or the same as oneself', () => {
    const take = vi.fn();
    const { container } = render(
      <ChangedMeanwhile
        texts={[
          { label: 'Name', was: 'Old', now: 'Old', mine: 'Mine', take },
          { label: 'Definition', was: 'Old', now: 'Same', mine: 'Same', take },
        ]}
      />,
    );
    expect(container.textContent).toBe('');
  });
});
