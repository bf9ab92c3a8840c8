import { useQuery } from '@tanstack/react-query';
import { ChevronDown, ChevronUp, X } from 'lucide-react';
import { useEffect, useLayoutEffect, useRef, useState, type KeyboardEvent, type RefObject } from 'react';
import { queries } from '@/api/queries';
import type { TextRange } from '@/mark/observations/place';
import { usePageActions } from '@/parts/actions/registry';
import { finding } from './actions';
import { paint, type Pane } from './positions';

interface Props {
  sourceId: number;
  pane: Pane;
  root: RefObject<HTMLDivElement | null>;
  frame: HTMLElement;
  inView: { from: number; to: number };
  /** Changes when other turns come into the page. */
  range: string;
  onGo: (hit: TextRange) => void;
  /** The reader leaves it: what was found last is selected, to be tagged. */
  onSelect: (hit: TextRange | null) => void;
}

const step = 'grid size-7 place-items-center rounded-std text-ink-soft hover:bg-wash hover:text-ink disabled:opacity-40';

/** Whose keys are pressed: the pane's that holds the focus, or else the first one's. */
function isMine(pane: Pane, frame: HTMLElement): boolean {
  const holds = document.activeElement?.closest('[data-frame]');
  return holds ? holds === frame : pane === 'first';
}

/** Hits are highlighted as far beside what is in view, in UTF-16 units. */
const beside = 20_000;
const none: readonly TextRange[] = [];

/** Finds words in the whole source, also where they are not in the page: all hits are highlighted, counted and gone through. */
export function FindBar({ sourceId, pane, root, frame, inView, range, onGo, onSelect }: Props) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const [byStem, setByStem] = useState(false);
  const [chosen, setChosen] = useState<number | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const looked = open && typed.trim() !== '';
  const answer = useQuery({ ...queries.hits(sourceId, typed, byStem), enabled: looked });
  const hits = looked ? (answer.data ?? none) : none;
  // The first that is in view or after it, until the reader goes on from there.
  const first = Math.max(
    0,
    hits.findIndex((h) => h.end > inView.from),
  );
  const at = Math.min(chosen ?? first, hits.length - 1);
  const hit = hits[at] ?? null;

  usePageActions(finding, {
    find: () => {
      if (!isMine(pane, frame)) return false;
      setOpen(true);
      input.current?.select();
      return true;
    },
  });
  useLayoutEffect(() => {
    const near = hits.filter((h) => h.end > inView.from - beside && h.start < inView.to + beside);
    paint('found', pane, root.current, near);
    paint('hit', pane, root.current, hit ? [hit] : none);
  }, [hits, hit, pane, root, range]); // eslint-disable-line react-hooks/exhaustive-deps -- what is in view changes with the range
  useEffect(
    () => () => {
      paint('found', pane, null, none);
      paint('hit', pane, null, none);
    },
    [pane],
  );
  if (!open) return null;

  const go = (by: -1 | 1) => {
    if (hits.length === 0) return;
    const next = chosen === null && by === 1 && hit !== null && (hit.start < inView.from || hit.start > inView.to) ? at : (at + by + hits.length) % hits.length;
    setChosen(next);
    onGo(hits[next]!);
  };
  const close = () => {
    setOpen(false);
    setChosen(null);
    onSelect(hit);
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === 'Escape') close();
    else if (event.key === 'Enter' || event.key === 'ArrowDown' || event.key === 'ArrowUp') go(event.shiftKey || event.key === 'ArrowUp' ? -1 : 1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      role="search"
      aria-label="Find in this source"
      onKeyDown={keys}
      className="absolute top-2 right-10 z-20 flex animate-rise items-center gap-1 rounded-std border border-line bg-case py-1 pr-1 pl-2.5 text-[13px] shadow-float"
    >
      <input
        ref={input}
        autoFocus
        aria-label="Words to find"
        placeholder="Find in this source"
        value={typed}
        onChange={(e) => {
          setTyped(e.target.value);
          setChosen(null);
        }}
        className="w-[170px] bg-transparent outline-none placeholder:text-ink-soft"
      />
      <span role="status" className="min-w-16 text-right text-[12px] text-ink-soft">
        {typed.trim() === '' ? '' : hits.length === 0 ? (answer.isFetching ? '' : 'not found') : `${at + 1} of ${hits.length}`}
      </span>
      <button type="button" className={step} aria-label="The hit before" disabled={hits.length === 0} onClick={() => go(-1)}>
        <ChevronUp aria-hidden className="size-4" />
      </button>
      <button type="button" className={step} aria-label="The next hit" disabled={hits.length === 0} onClick={() => go(1)}>
        <ChevronDown aria-hidden className="size-4" />
      </button>
      <label className="flex min-h-6 items-center gap-1 px-1 text-[12px] text-ink-soft" title="“cancel” also finds “cancelled” and “cancelling”">
        <input
          type="checkbox"
          checked={byStem}
          onChange={() => {
            setByStem(!byStem);
            setChosen(null);
          }}
          className="accent-verdigris"
        />
        by stem
      </label>
      <button type="button" className={step} aria-label="Leave finding" onClick={close}>
        <X aria-hidden className="size-4" />
      </button>
    </div>
  );
}
