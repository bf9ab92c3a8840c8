import type { Schemas } from '@/api/client';
import { day } from '@/parts/words';
import { Differences } from './Differences';

type Then = Schemas['SurveyAgain'];

export const thenWords: Record<Then, string> = {
  leave: 'what is here stays',
  newAnswers: 'new answers of the same people',
  replace: 'they take the place of what is here',
};

const choices: Record<Then, { label: string; hint: string }> = {
  leave: { label: 'Leave what is here', hint: 'Only new rows and new questions come in.' },
  newAnswers: { label: 'Import them as new answers', hint: 'Each becomes a second source of the same person; the first stays.' },
  replace: { label: 'Replace what is here', hint: 'Values and words are corrected; marks follow their words.' },
};

const quoted = (questions: readonly string[]) => questions.map((q) => `“${q}”`).join(', ');

interface Props {
  known: Schemas['SurveyKnown'];
  /** How many rows say something else now. */
  differing: number;
  /** Whether a column tells who answered. */
  byPeople: boolean;
  /** Whether a column tells when a row was answered. */
  dated: boolean;
  then: Then;
  onThen: (then: Then) => void;
  heldOn: string;
  onHeldOn: (day: string) => void;
}

/** The table is a survey that came in before: what is otherwise now, and what is to be done with it. */
export function CameBefore({ known, differing, byPeople, dated, then, onThen, heldOn, onHeldOn }: Props) {
  return (
    <section aria-label="It came in before" className="mb-5 border-t border-line pt-4">
      <h2 className="text-[13px] font-semibold text-ink-soft">It came in before</h2>
      <p className="mt-1">
        As “{known.name}”, on {day(known.takenInAt)}.
      </p>
      {known.added.length > 0 && <p className="mt-1 text-[13px]">New questions: {quoted(known.added)}</p>}
      {known.dropped.length > 0 && <p className="mt-1 text-[13px]">Not asked any more: {quoted(known.dropped)}</p>}
      {!byPeople && (
        <p className="mt-1 text-[13px] text-brass">
          No column tells who answered: a row is known by its answers, so one that was changed comes in as a new person.
        </p>
      )}
      {differing > 0 && (
        <>
          <Differences label="What differs" first={known.first} all={known.differences} />
          <fieldset className="mt-3 space-y-2">
            <legend className="mb-1 text-[13px] font-medium">Rows that differ</legend>
            {(Object.keys(choices) as Then[]).map((choice) => (
              <label key={choice} className="flex gap-2">
                <input type="radio" name="then" className="mt-1 size-4 shrink-0 accent-verdigris" checked={then === choice} onChange={() => onThen(choice)} />
                <span>
                  {choices[choice].label}
                  <span className="block text-[12.5px] text-ink-soft">{choices[choice].hint}</span>
                </span>
              </label>
            ))}
          </fieldset>
          {then === 'newAnswers' && !dated && (
            <label className="mt-2 block text-[13px]">
              Answered on
              <input type="date" className="ml-2 rounded-std border border-line bg-case px-2 py-1" value={heldOn} onChange={(e) => onHeldOn(e.target.value)} />
            </label>
          )}
        </>
      )}
    </section>
  );
}
