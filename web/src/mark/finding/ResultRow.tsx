import type { KeyboardEvent, ReactNode } from 'react';
import { pressed } from '@/parts/actions/actions';
import { rows } from './actions';

interface Acts {
  index: number;
  last: number;
  choose: (index: number, range: boolean) => void;
  all: () => void;
  open: () => void;
}

/** The keys of a row in a list of which some are chosen. */
function rowKeys(event: KeyboardEvent<HTMLElement>, act: Acts) {
  const all = [...(event.currentTarget.closest('[data-rows]')?.querySelectorAll<HTMLElement>('[data-row]') ?? [])];
  const here = all.indexOf(event.currentTarget);
  const step = (by: 1 | -1, chooses: boolean) => {
    all[here + by]?.focus();
    if (chooses) act.choose(Math.max(0, Math.min(act.last, act.index + by)), true);
  };
  pressed(rows, { step, choose: (range) => act.choose(act.index, range), all: act.all, open: act.open }, event);
}

interface Props extends Acts {
  label: string;
  words: string;
  chosen: boolean;
  /** Said above the row, where another source begins. */
  heading: string | undefined;
  className: string;
  children: ReactNode;
}

/** One of what was found, to be chosen: by a click, the space bar, or with those since the last one. */
export function ResultRow({ label, words, chosen, heading, className, children, ...act }: Props) {
  return (
    <>
      {heading !== undefined && <h2 className="border-b border-line pt-3 pb-1 text-[12.5px] font-semibold text-ink-soft">{heading}</h2>}
      <div
        data-row
        role="group"
        aria-label={label}
        tabIndex={act.index === 0 ? 0 : -1}
        onKeyDown={(e) => e.target === e.currentTarget && rowKeys(e, act)}
        className={`grid gap-x-3 focus-visible:outline-2 focus-visible:outline-verdigris ${className}`}
      >
        <input
          type="checkbox"
          tabIndex={-1}
          aria-label={`Choose “${words.slice(0, 60)}”`}
          checked={chosen}
          onChange={(e) => act.choose(act.index, (e.nativeEvent as MouseEvent).shiftKey)}
          className="mt-1.5 size-4 accent-verdigris"
        />
        {children}
      </div>
    </>
  );
}
