import { ChevronLeft, ChevronRight, X } from 'lucide-react';
import type { Schemas } from '@/api/client';
import { kinds, kindWords } from '@/parts/words';
import { neighbour } from './shelfOrder';

interface Props {
  label: string;
  sources: readonly Schemas['SourceLine'][];
  current: number;
  onOpen: (id: number) => void;
  onClose: () => void;
}

const button = 'grid size-7 place-items-center rounded-std text-ink-soft hover:bg-wash hover:text-ink disabled:opacity-40';

/** Above each of two sources that are side by side: which it is, the one before and after, and away with it. */
export function PaneHead({ label, sources, current, onOpen, onClose }: Props) {
  const [before, after] = [neighbour(sources, current, -1), neighbour(sources, current, 1)];
  return (
    <div role="group" aria-label={label} className="flex items-center gap-1.5 border-b border-line px-4 py-1.5">
      <select
        aria-label={`${label}: choose it`}
        className="min-h-7 min-w-0 flex-1 truncate rounded-std border border-line bg-case px-1.5 font-medium"
        value={current}
        onChange={(e) => onOpen(Number(e.target.value))}
      >
        {kinds
          .filter((kind) => sources.some((s) => s.kind === kind))
          .map((kind) => (
            <optgroup key={kind} label={kindWords[kind].many}>
              {sources
                .filter((s) => s.kind === kind)
                .map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.title}
                  </option>
                ))}
            </optgroup>
          ))}
      </select>
      <button type="button" className={button} aria-label={`${label}: the one before`} disabled={!before} onClick={() => before && onOpen(before.id)}>
        <ChevronLeft aria-hidden className="size-4" />
      </button>
      <button type="button" className={button} aria-label={`${label}: the one after`} disabled={!after} onClick={() => after && onOpen(after.id)}>
        <ChevronRight aria-hidden className="size-4" />
      </button>
      <button type="button" className={button} aria-label={`Close ${label.toLowerCase()}`} onClick={onClose}>
        <X aria-hidden className="size-4" />
      </button>
    </div>
  );
}
