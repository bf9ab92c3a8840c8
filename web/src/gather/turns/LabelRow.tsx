import { Link } from '@tanstack/react-router';
import type { KeyboardEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Button, Key } from '@/parts/Button';
import { count } from '@/parts/words';

type Kind = Schemas['LabelKind'];

const kinds: readonly { kind: Kind; key: string; words: string }[] = [
  { kind: 'speaker', key: 's', words: 'Speaker' },
  { kind: 'team', key: 't', words: 'Team' },
  { kind: 'noSpeaker', key: 'n', words: 'No speaker' },
];

/** The next row of the page, whatever source it is of. */
function goOn(row: HTMLElement, by: number) {
  const all = [...document.querySelectorAll<HTMLElement>('[data-label-row]')];
  all[all.indexOf(row) + by]?.focus();
}

/** A name that was not understood: what it is, is said by one key. */
export function LabelRow({ studyId, sourceId, label }: { studyId: number; sourceId: number; label: Schemas['LabelToLookAt'] }) {
  const say = useWrite((kind: Kind) => ask(api.PUT('/api/sources/{id}/labels', { params: { path: { id: sourceId } }, body: { label: label.label, kind } })));
  const onKeyDown = (event: KeyboardEvent<HTMLLIElement>) => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
    const row = event.currentTarget;
    const chosen = kinds.find((k) => k.key === event.key.toLowerCase());
    if (chosen) say.mutate(chosen.kind, { onSuccess: () => goOn(row, 1) });
    else if (event.key === 'ArrowDown' || event.key === 'j') goOn(row, 1);
    else if (event.key === 'ArrowUp' || event.key === 'k') goOn(row, -1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <li
      data-label-row={label.settled ? 'settled' : 'open'}
      tabIndex={0}
      aria-label={`${label.label}, ${label.settled ? 'settled' : 'to look at'}`}
      onKeyDown={onKeyDown}
      className="-mx-2 grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 rounded-std px-2 py-2"
    >
      <div className="min-w-0">
        <span className={`font-semibold ${label.settled ? '' : 'border-b-2 border-brass'}`}>{label.label}</span>
        <span className="ml-2 text-[12.5px] text-ink-soft">
          {count(label.times, 'line')}, {label.speaks ? 'read as a speaker of its own' : 'left in the words'}
          {label.settled && ', as you said'}
        </span>
        <Link
          to="/studies/$studyId/mark"
          params={{ studyId }}
          search={{ source: sourceId, place: label.start }}
          className="block truncate font-read text-[14.5px] text-ink-soft hover:underline"
        >
          {label.words}
        </Link>
      </div>
      <div role="group" aria-label={`What is ${label.label}?`} className="flex gap-1.5">
        {kinds.map((k) => (
          <Button key={k.kind} disabled={say.isPending} onClick={() => say.mutate(k.kind)}>
            {k.words} <Key>{k.key}</Key>
          </Button>
        ))}
      </div>
    </li>
  );
}
