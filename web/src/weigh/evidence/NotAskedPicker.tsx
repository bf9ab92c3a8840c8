import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';

interface Props {
  studyId: number;
  thing: Schemas['AskedThing'];
  id: number;
  people: readonly Schemas['Participant'][];
  notAsked: readonly number[];
}

/** Who was not asked: out of the denominator, dotted in the strip. */
export function NotAskedPicker({ studyId, thing, id, people, notAsked }: Props) {
  const set = useWrite(
    (participantIds: number[]) => ask(api.PUT('/api/studies/{studyId}/not-asked', { params: { path: { studyId } }, body: { thing, id, participantIds } })),
    {
      quiet: true,
    },
  );
  return (
    <details className="mt-1.5 text-[12.5px]">
      <summary className="cursor-pointer text-sky">{notAsked.length === 0 ? 'Everyone was asked' : `${notAsked.length} not asked`}: change</summary>
      <fieldset className="mt-1 grid grid-cols-2 gap-x-3 rounded-std border border-line p-2">
        <legend className="px-1 text-ink-soft">Untick who was not asked</legend>
        {people
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
          ))}
      </fieldset>
    </details>
  );
}
