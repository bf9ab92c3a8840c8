import { CircleDashed } from 'lucide-react';
import type { ShownNote } from './noteWrites';

interface Props {
  note: ShownNote;
  top: number;
  /** How many lines of it have room; the rest is there when it has the focus or the mouse. */
  lines: number;
  lineHeight: number;
  waits: boolean;
  onOpen: (noteId: number) => void;
}

/** A margin note: small and slanted, with a stroke of the pen to its words. */
export function NoteInMargin({ note, top, lines, lineHeight, waits, onOpen }: Props) {
  return (
    <button
      type="button"
      id={`note-${note.id}`}
      onClick={() => onOpen(note.id)}
      aria-label={`Margin note: ${note.words}${note.unsure ? ', unsure' : ''}`}
      title={waits ? 'Kept in this browser, not sent yet' : undefined}
      className="group absolute left-0 flex w-full items-start text-left hover:z-10 focus-visible:z-10"
      style={{ top: top + 3 }}
    >
      <svg aria-hidden width="14" height="18" viewBox="0 0 14 18" className="mt-px -ml-1 shrink-0 text-ink-soft">
        <path d="M0 14 C4 14 6 12 8 8 S11 4 13 4" fill="none" stroke="currentColor" strokeWidth="1.1" strokeLinecap="round" />
      </svg>
      <span
        className={`line-clamp-(--lines) min-w-0 pl-1 font-read text-[13px] wrap-anywhere italic group-hover:line-clamp-none group-hover:bg-paper group-focus-visible:line-clamp-none group-focus-visible:bg-paper ${waits ? 'border-b border-dashed border-brass' : ''}`}
        style={{ lineHeight: `${lineHeight}px`, ['--lines' as string]: lines }}
      >
        {note.unsure && <CircleDashed aria-label="unsure" className="mr-1 inline size-3 align-[-1px] text-brass" />}
        {note.words}
      </span>
    </button>
  );
}
