import { useState } from 'react';
import type { Schemas } from '@/api/client';

interface Props {
  legend: string;
  hint?: string;
  people: readonly Schemas['Participant'][];
  chosen: readonly number[];
  onChoose: (ids: number[]) => void;
}

/** With more people than this they are found by typing; those chosen are always there. */
const mostShown = 24;

/** Any number of a study's participants, by their boxes. */
export function PeoplePicker({ legend, hint, people, chosen, onChoose }: Props) {
  const [typed, setTyped] = useState('');
  if (people.length === 0) return null;
  const wanted = typed.trim().toLowerCase();
  const found = people.filter((p) => chosen.includes(p.id) || `${p.code} ${p.pseudonym}`.toLowerCase().includes(wanted));
  const shown = found.filter((p, i) => chosen.includes(p.id) || i < mostShown);
  return (
    <fieldset className="mb-4">
      <legend className="mb-1 text-[13px] font-medium">{legend}</legend>
      {people.length > mostShown && (
        <input
          aria-label="Find a participant"
          placeholder="Find a participant"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          className="mb-2 w-[220px] rounded-std border border-line bg-case px-2.5 py-1 placeholder:text-ink-soft"
        />
      )}
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {shown.map((p) => (
          <label key={p.id} className="flex min-h-6 items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4 accent-verdigris"
              checked={chosen.includes(p.id)}
              onChange={(e) => onChoose(e.target.checked ? [...chosen, p.id] : chosen.filter((x) => x !== p.id))}
            />
            {p.code} {p.pseudonym}
          </label>
        ))}
        {shown.length < found.length && <span className="text-ink-soft">{found.length - shown.length} more; type to find one</span>}
      </div>
      {hint && <p className="mt-1 text-[12.5px] text-ink-soft">{hint}</p>}
    </fieldset>
  );
}
