import { Link } from '@tanstack/react-router';
import type { KeyboardEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { ActionButton } from '@/parts/actions/ActionButton';
import { pressed } from '@/parts/actions/actions';
import { count } from '@/parts/words';
import { labels, type LabelActs } from './actions';

type Kind = Schemas['LabelKind'];

const { speaker, team, noSpeaker } = labels.actions;

/** The next row of the page, whatever source it is of. */
function goOn(row: HTMLElement, by: number) {
  const all = [...document.querySelectorAll<HTMLElement>('[data-label-row]')];
  all[all.indexOf(row) + by]?.focus();
}

/** A name that was not understood: what it is, is said by one key. */
export function LabelRow({ studyId, sourceId, label }: { studyId: number; sourceId: number; label: Schemas['LabelToLookAt'] }) {
  const say = useWrite((kind: Kind) => ask(api.PUT('/api/sources/{id}/labels', { params: { path: { id: sourceId } }, body: { label: label.label, kind } })));
  const onKeyDown = (event: KeyboardEvent<HTMLLIElement>) => {
    const row = event.currentTarget;
    const acts: LabelActs = { say: (kind) => say.mutate(kind, { onSuccess: () => goOn(row, 1) }), step: (by) => goOn(row, by) };
    if (event.target === row && pressed(labels, acts, event)) event.stopPropagation();
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
        {[speaker, team, noSpeaker].map((action) => (
          <ActionButton key={action.name} action={action} on={{ say: say.mutate, step: () => undefined }} disabled={say.isPending} />
        ))}
      </div>
    </li>
  );
}
