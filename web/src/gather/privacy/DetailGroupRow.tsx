import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import type { Schemas } from '@/api/client';
import { Button } from '@/parts/Button';
import { count } from '@/parts/words';
import { idOf, placeId, type Chosen } from './chosen';

interface Props {
  studyId: number;
  group: Schemas['DetailGroup'];
  sources: readonly Schemas['SourceLine'][];
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
}

const kindWords: Record<Schemas['DetailKind'], string> = { name: 'name', emailAddress: 'e-mail address', phoneNumber: 'phone number', word: 'given word' };
const shownAtFirst = 3;

/** The same words wherever they were found, each place with a tick box and the words around it. */
export function DetailGroupRow({ studyId, group, sources, chosen, onChoose }: Props) {
  const [all, showAll] = useState(false);
  const ids = group.places.map(placeId);
  const ticked = ids.filter((id) => !chosen.left.has(id)).length;
  const tick = (which: readonly string[], on: boolean) => {
    const left = new Set(chosen.left);
    for (const id of which)
      if (on) left.delete(id);
      else left.add(id);
    onChoose({ ...chosen, left });
  };
  const replacement = chosen.replacements.get(idOf(group)) ?? group.replacement;
  return (
    <li className="grid grid-cols-[28px_230px_210px_minmax(0,1fr)] items-start gap-x-4 border-t border-line py-3">
      <input
        type="checkbox"
        className="mt-1 size-[18px] accent-verdigris"
        aria-label={`All places of ${group.words}`}
        checked={ticked === ids.length}
        ref={(box) => {
          if (box) box.indeterminate = ticked > 0 && ticked < ids.length;
        }}
        onChange={(e) => tick(ids, e.target.checked)}
      />
      <div className="min-w-0">
        <span className="block font-read text-[16px] font-medium wrap-anywhere">{group.words}</span>
        <span className="text-[12.5px] text-ink-soft">
          {kindWords[group.kind]}, {count(group.places.length, 'place')}
        </span>
      </div>
      <label className="text-[12.5px] text-ink-soft">
        readers see
        <input
          value={replacement}
          onChange={(e) => onChoose({ ...chosen, replacements: new Map(chosen.replacements).set(idOf(group), e.target.value) })}
          className="mt-0.5 block min-h-8 w-full rounded-std border border-line bg-case px-2 text-[13.5px] text-ink"
        />
      </label>
      <div className="min-w-0">
        <ul className="space-y-1">
          {(all ? group.places : group.places.slice(0, shownAtFirst)).map((place) => (
            <li key={placeId(place)} className="flex items-baseline gap-2">
              <input
                type="checkbox"
                className="translate-y-0.5 accent-verdigris"
                aria-label={`${group.words} in ${sources.find((s) => s.id === place.sourceId)?.title ?? ''}`}
                checked={!chosen.left.has(placeId(place))}
                onChange={(e) => tick([placeId(place)], e.target.checked)}
              />
              <span className="min-w-0 flex-1 truncate font-read text-[14.5px] text-ink-soft">
                {place.before}
                <mark className="bg-brass-wash text-ink">{group.words}</mark>
                {place.after}
              </span>
              <Link
                to="/studies/$studyId/mark"
                params={{ studyId }}
                search={{ source: place.sourceId, place: place.start }}
                className="max-w-[140px] truncate text-[12.5px] text-sky hover:underline"
              >
                {sources.find((s) => s.id === place.sourceId)?.title}
              </Link>
            </li>
          ))}
        </ul>
        {group.places.length > shownAtFirst && (
          <Button look="quiet" className="!min-h-6 !px-0 !py-0" aria-expanded={all} onClick={() => showAll(!all)}>
            {all ? 'Fewer' : `${group.places.length - shownAtFirst} more`}
          </Button>
        )}
      </div>
    </li>
  );
}
