import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { Key } from '@/parts/Button';

/** What was begun and left, by where it stands: it is there again when the same place is opened. */
const left = new Map<string, string>();

interface Props {
  /** Where it stands, as one word. */
  place: string;
  onDone: (words: string, unsure: boolean) => void;
  onCancel: () => void;
}

/** A line for a remark on the selected words; it grows as it is written. */
export function NoteField({ place, onDone, onCancel }: Props) {
  const [words, setWords] = useState(left.get(place) ?? '');
  const [unsure, setUnsure] = useState(false);
  // The focus goes back to the words as it closes, which is no second wish to keep it.
  const closed = useRef(false);
  const keep = () => {
    if (closed.current) return;
    closed.current = true;
    if (words.trim() === '') return onCancel();
    left.delete(place);
    onDone(words.trim(), unsure);
  };
  return (
    <div
      role="dialog"
      aria-label="Margin note"
      data-testid="note-field"
      className="w-[430px] animate-rise rounded-std border border-line bg-case p-2 text-[13px] shadow-float"
      onBlur={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget)) keep();
      }}
      onKeyDown={(e) => {
        if (e.key === 'Escape') {
          e.stopPropagation();
          if (words.trim() === '') left.delete(place);
          else {
            left.set(place, words);
            toast('Your note is not kept yet. It is here when you write a note in this place again.', {
              action: {
                label: 'Keep it',
                onClick: () => {
                  left.delete(place);
                  onDone(words.trim(), unsure);
                },
              },
            });
          }
          closed.current = true;
          onCancel();
        }
      }}
    >
      <textarea
        autoFocus
        rows={Math.min(8, Math.max(2, words.split('\n').length))}
        aria-label="Margin note"
        placeholder="What you notice here"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || e.shiftKey || e.nativeEvent.isComposing) return;
          e.preventDefault();
          keep();
        }}
        className="block w-full resize-none bg-transparent px-1 py-0.5 font-read text-[15px] leading-[22px] italic outline-none placeholder:text-ink-soft"
      />
      <p className="mt-1 flex items-center gap-2 border-t border-line pt-1.5 text-[11.5px] text-ink-soft">
        <Key>Enter</Key> keeps it <Key>Shift Enter</Key> new line
        <label className="ml-auto flex min-h-6 items-center gap-1.5">
          <input type="checkbox" checked={unsure} onChange={(e) => setUnsure(e.target.checked)} className="size-3.5 accent-verdigris" />
          unsure
        </label>
      </p>
    </div>
  );
}
