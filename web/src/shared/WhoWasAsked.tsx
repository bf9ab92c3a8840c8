import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { count } from '@/parts/words';

export interface Asked {
  studyId: number;
  thing: Schemas['AskedThing'];
  id: number;
  people: readonly Schemas['Participant'][];
  notAsked: readonly number[];
}

/** A box for each person in scope: who is unticked was not asked, leaves the denominator and is dotted in the strip. */
export function AskedBoxes({ studyId, thing, id, people, notAsked }: Asked) {
  const set = useWrite(
    (participantIds: number[]) => ask(api.PUT('/api/studies/{studyId}/not-asked', { params: { path: { studyId } }, body: { thing, id, participantIds } })),
    { quiet: true },
  );
  return people
    .filter((p) => p.begun || notAsked.includes(p.id))
    .map((person) => (
      <label key={person.id} className="flex min-h-6 items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-verdigris"
          checked={!notAsked.includes(person.id)}
          onChange={(e) => set.mutate(e.target.checked ? notAsked.filter((p) => p !== person.id) : [...notAsked, person.id])}
        />
        {person.code} {person.pseudonym}
      </label>
    ));
}

/** Who was asked about a claim, on its page. */
export function WhoWasAsked(of: Asked) {
  const left = of.people.filter((p) => !p.begun && !of.notAsked.includes(p.id)).length;
  return (
    <fieldset className="mt-5 text-ink-soft">
      <legend className="mb-1 font-semibold text-ink">Who was asked</legend>
      <AskedBoxes {...of} />
      {left > 0 && (
        <p className="mt-1 text-[12px]">
          {count(left, 'participant')} more {left === 1 ? 'has' : 'have'} no source that somebody has begun to read.
        </p>
      )}
    </fieldset>
  );
}
