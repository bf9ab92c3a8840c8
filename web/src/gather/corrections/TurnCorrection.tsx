import { useState, type KeyboardEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Button, Key } from '@/parts/Button';
import { Problem } from '@/parts/Field';

interface Props {
  source: Schemas['Source'];
  turn: Schemas['StoredTurn'];
  who: string;
  onDone: () => void;
}

/** One turn's words, to be mended where they stand. */
export function TurnCorrection({ source, turn, who, onDone }: Props) {
  const [basedOn] = useState(source.textHash);
  const [words, setWords] = useState(source.text.slice(turn.start, turn.end));
  const save = useWrite(
    () => ask(api.PUT('/api/sources/{id}/words', { params: { path: { id: source.line.id } }, body: { start: turn.start, end: turn.end, words, basedOn } })),
    { own: true },
  );
  const correct = () => save.mutate(undefined, { onSuccess: onDone });
  const keys = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === 'Escape') onDone();
    else if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) correct();
    else return;
    event.preventDefault();
  };
  return (
    <div
      className="grid grid-cols-[84px_minmax(0,600px)_minmax(150px,1fr)] gap-x-4 pb-7 @max-[720px]:grid-cols-[60px_minmax(0,1fr)]"
      onMouseUp={(e) => e.stopPropagation()}
    >
      <div className="pt-[3px] text-right text-[12.5px] leading-[17px] font-semibold wrap-anywhere">{who}</div>
      <div className="-mx-3">
        <textarea
          ref={(field) => {
            if (!field) return;
            field.style.height = 'auto';
            field.style.height = `${field.scrollHeight + 2}px`;
          }}
          autoFocus
          spellCheck
          rows={1}
          aria-label={who ? `Words of ${who}` : 'Words of this paragraph'}
          value={words}
          onChange={(e) => setWords(e.target.value)}
          onKeyDown={keys}
          className="block w-full resize-none rounded-std border border-verdigris bg-case px-[11px] py-0.5 font-read text-[17px] leading-[28px]"
        />
        <div className="mt-2 flex items-center gap-2">
          <Button look="main" onClick={correct} disabled={save.isPending}>
            Correct
          </Button>
          <Key>Ctrl Enter</Key>
          <Button look="quiet" onClick={onDone}>
            Leave it
          </Button>
          <Key>Esc</Key>
        </div>
        <div className="mt-2">
          <Problem of={save.error} />
        </div>
      </div>
    </div>
  );
}
