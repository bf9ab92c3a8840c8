import { CircleDashed, SearchCheck, Star } from 'lucide-react';
import type { ShownWords } from '@/mark/observations/writes';
import { TagLabel } from '@/parts/TagLabel';
import type { TagLook } from '@/parts/tagLook';

interface Props {
  mark: ShownWords;
  /** Of the labels of this mark, the one that carries its signs. */
  first: boolean;
  look: TagLook;
  top: number;
  focused: boolean;
  waits: boolean;
  onFocus: (observationId: number, open: boolean) => void;
  onHover: (observationId: number | null) => void;
}

/** The label of a mark, on the line where it begins. It opens the mark, and can be dragged onto a tag, a theme, an insight. */
export function Label({ mark, first, look, top, focused, waits, onFocus, onHover }: Props) {
  return (
    <button
      type="button"
      id={first ? `label-${mark.id}` : undefined}
      data-mark={mark.id}
      onClick={() => onFocus(mark.id, true)}
      onMouseEnter={() => onHover(mark.id)}
      onMouseLeave={() => onHover(null)}
      className={`absolute left-0 max-w-full ${focused ? 'brightness-95' : ''} ${waits ? 'border-b border-dashed border-brass' : ''}`}
      style={{ top }}
      title={`${look.name}${mark.note ? `. Note: ${mark.note}` : ''}${waits ? '. Kept in this browser, not sent yet' : ''}`}
    >
      <TagLabel look={look}>
        {mark.starred && first && <Star aria-label="starred" className="size-3 fill-brass text-brass" />}
        {mark.found && first && <SearchCheck aria-label="found, not reviewed" className="size-3 text-brass" />}
        {mark.unsure && first && <CircleDashed aria-label="unsure" className="size-3 text-brass" />}
      </TagLabel>
    </button>
  );
}
