import type { Schemas } from '@/api/client';
import { ActionKey } from '@/parts/actions/ActionButton';
import { useRowActions } from '@/parts/actions/registry';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { count, ofPeople } from '@/parts/words';
import { rows } from './actions';

interface Props {
  problem: Error | null;
  breadth: Schemas['Breadth'] | undefined;
  people: readonly Schemas['Participant'][];
  onPerson: (id: number | null) => void;
  /** How many there are, in words. */
  what: (n: number) => string;
  onAll: () => void;
  /** What is said when nothing was found; undefined while it is not known. */
  nothing: string | undefined;
}

/** How many were found, of how many people. */
export function ResultHead({ problem, breadth, people, onPerson, what, onAll, nothing }: Props) {
  useRowActions(rows);
  if (problem)
    return (
      <p role="alert" className="py-3 text-oxblood">
        {problem.message}
      </p>
    );
  if (!breadth) return null;
  const { observations, people: of, sources, unattributed } = breadth.triple;
  if (observations === 0) return nothing === undefined ? null : <p className="py-6 text-ink-soft">{nothing}</p>;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2.5">
      <PeopleStrip people={people} breadth={breadth} onPick={onPerson} />
      <span className="font-medium">
        {what(observations)}, {ofPeople(of, breadth.outOf)}
      </span>
      <span className="text-ink-soft">
        in {count(sources, 'source')}
        {unattributed > 0 && `, ${unattributed} unattributed`}
        {breadth.notReviewed > 0 && <span className="text-brass">, {breadth.notReviewed} found, not reviewed</span>}
      </span>
      <button type="button" className="ml-auto min-h-6 text-sky hover:underline" onClick={onAll}>
        Choose all {observations} <ActionKey of={rows.actions.all} />
      </button>
    </div>
  );
}
