import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Word } from '@/parts/WordChoices';
import { asking, whole, type Where } from './where';

interface Props {
  studyId: number;
  where: Where | undefined;
  onWhere: (where: Where) => void;
}

const same = (kept: Schemas['SavedFilter'], where: Where | undefined) => JSON.stringify(kept.conditions) === JSON.stringify(whole(where));

const unreadable = 'What it asks for cannot be read. Set the conditions anew and keep them by this name, or remove it.';

/** The filters that a study keeps by name, and a place to keep what is set. */
export function SavedFilters({ studyId, where, onWhere }: Props) {
  const kept = useQuery(queries.filters(studyId)).data ?? [];
  const [name, setName] = useState('');
  const keep = useWrite(() => ask(api.POST('/api/studies/{studyId}/filters', { params: { path: { studyId } }, body: { name, conditions: whole(where) } })));
  const remove = useWrite((savedFilterId: number) =>
    ask(api.DELETE('/api/studies/{studyId}/filters/{savedFilterId}', { params: { path: { studyId, savedFilterId } } })),
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (name.trim() !== '') keep.mutate(undefined, { onSuccess: () => setName('') });
  };
  const on = where && kept.find((f) => same(f, where));
  return (
    <Word label={on ? on.name : 'saved filters'} set={on !== undefined}>
      {kept.length === 0 && <p className="px-1.5 py-1 text-ink-soft">None yet. Set some conditions in this line, then keep them here by a name.</p>}
      <ul>
        {kept.map((f) => (
          <li key={f.id} className="flex items-center gap-1 rounded-[4px] hover:bg-wash">
            <button
              type="button"
              aria-pressed={f === on}
              disabled={f.conditions === null}
              title={f.conditions === null ? unreadable : `Kept by ${f.createdBy}`}
              className={`min-h-7 min-w-0 flex-1 truncate px-1.5 text-left ${f === on ? 'font-semibold' : ''}`}
              onClick={() => f.conditions && onWhere(asking(f.conditions) ?? {})}
            >
              {f.name}
              {f.conditions === null && <span className="text-brass">, cannot be read</span>}
            </button>
            <button
              type="button"
              aria-label={`Remove the filter ${f.name}`}
              className="grid size-7 place-items-center text-ink-soft hover:text-oxblood"
              onClick={() => remove.mutate(f.id)}
            >
              <X aria-hidden className="size-3.5" />
            </button>
          </li>
        ))}
      </ul>
      {where && !on && (
        <form onSubmit={submit} className="mt-1.5 flex gap-1.5 border-t border-line pt-2">
          <input
            aria-label="Name of this filter"
            placeholder="Name of this filter"
            value={name}
            onChange={(e) => setName(e.target.value)}
            className="min-w-0 flex-1 rounded-std border border-line bg-paper px-2 py-1 placeholder:text-ink-soft"
          />
          <Button type="submit" disabled={name.trim() === '' || keep.isPending}>
            Keep
          </Button>
        </form>
      )}
    </Word>
  );
}
