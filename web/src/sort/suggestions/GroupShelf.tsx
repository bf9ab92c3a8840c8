import type { Schemas } from '@/api/client';
import { Key } from '@/parts/Button';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { ofPeople } from '@/parts/words';
import { inTurn, isWaiting, nameOf, type Item, type Place, type View } from './walk';

export const pileWords = {
  loose: { name: 'Not placed yet', says: 'Put each in a group by its number, or in a new one: press e and type its claim.' },
  unsure: { name: 'Unsure', says: 'As near to one group as to another: nothing is forced.' },
  mixed: { name: 'Good and bad', says: 'Each mixes what works with what does not, and was held apart.' },
  alone: { name: 'Belongs nowhere', says: 'It stands near none of the others and shares no words with them.' },
  refused: { name: 'You said no before', says: 'It would be where somebody has said that it does not belong.' },
};

interface Props {
  view: View;
  items: readonly Item[];
  places: readonly Place[];
  place: Place;
  people: readonly Schemas['Participant'][];
  onPlace: (place: Place) => void;
}

/** All groups with their numbers and what waits in each, then what lies in none. */
export function GroupShelf({ view, items, places, place, people, onPlace }: Props) {
  const groups = new Map(view.groups.map((group, i) => [group.id, { group, number: i + 1 }]));
  return (
    <ol aria-label="Groups" className="min-h-0 flex-1 overflow-y-auto px-3 pb-4">
      {places.map((one) => {
        const listed = inTurn(items, one);
        const waiting = listed.filter(isWaiting).length;
        const accepted = listed.filter((item) => item.answer === 'accepted').length;
        const found = typeof one === 'number' ? groups.get(one) : undefined;
        const here = one === place;
        return (
          <li key={one}>
            <button
              type="button"
              aria-current={here}
              onClick={() => onPlace(one)}
              className={`mb-1 block w-full rounded-std border px-2.5 py-1.5 text-left ${
                here ? 'border-verdigris bg-case outline-1 outline-verdigris' : 'border-transparent hover:border-line'
              } ${waiting === 0 ? 'text-ink-soft' : ''}`}
            >
              <span className="flex items-start gap-2">
                {found && found.number <= 9 && <Key>{String(found.number)}</Key>}
                <span
                  className={`min-w-0 flex-1 ${found ? 'line-clamp-2 font-read text-[14.5px] leading-[1.35]' : 'font-medium'} ${found?.group.title ? 'font-semibold' : ''}`}
                >
                  {typeof one === 'number' ? nameOf(found?.group, found?.number ?? 0) : pileWords[one].name}
                </span>
                <span className={`shrink-0 text-[12px] ${waiting > 0 ? 'text-brass' : 'text-ink-soft'}`}>
                  {waiting > 0 ? `${waiting} to go` : listed.length === 0 ? 'empty' : 'done'}
                </span>
              </span>
              {found && (
                <span className="mt-1 flex items-center gap-2 text-[11.5px] text-ink-soft">
                  <PeopleStrip people={people} breadth={found.group.breadth} />
                  {ofPeople(found.group.breadth.triple.people, found.group.breadth.outOf)}
                  {accepted > 0 && `, ${accepted} in it`}
                  {found.group.themeId !== null && found.group.title === '' && <span className="text-brass">no claim yet</span>}
                </span>
              )}
            </button>
          </li>
        );
      })}
    </ol>
  );
}
