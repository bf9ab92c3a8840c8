import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { RadioGroup } from 'radix-ui';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { chosenByArrow } from '@/parts/chosenByArrow';
import { count } from '@/parts/words';
import { unknownParts } from './unknownParts';

type Outcome = Schemas['SharedOutcome'];
export type Decision = Schemas['SharedGiven'];

const outcomes: Record<Outcome, string> = {
  takeOut: 'Take their words out',
  silence: 'Silence the file where they may be heard',
  cover: 'Cover the file for good where it is covered',
  nothingOfTheirs: 'Nothing else of theirs is in it, I have looked',
  remove: 'Remove all of it',
};

const about: Partial<Record<Outcome, string>> = {
  silence: 'The file is written anew, a film is dark meanwhile, and covers on it stay for good. It may take some minutes.',
  cover: 'The picture is written anew. What is under a cover is gone.',
  remove: 'With what is marked in it, also of the others.',
};

interface Props {
  studyId: number;
  source: Schemas['TouchedSource'];
  decision: Decision | undefined;
  onDecision: (decision: Decision) => void;
}

/** A source in which others take part too: nobody but the team knows what of it is theirs, so somebody has to say what becomes of it. */
export function SharedMaterial({ studyId, source, decision, onDecision }: Props) {
  const choose = (what: Outcome) => onDecision({ sourceId: source.id, what, ranges: [], basedOn: null });
  return (
    <RadioGroup.Root
      aria-label={`What becomes of “${source.title}”?`}
      value={decision?.what ?? ''}
      onValueChange={(what) => choose(what as Outcome)}
      className="border-t border-line py-3 first:border-t-0"
    >
      <Link to="/studies/$studyId/mark" params={{ studyId }} search={{ source: source.id }} className="font-read text-[15.5px] hover:underline">
        {source.title}
      </Link>
      {source.choices.map((what) => (
        <div key={what}>
          <label className="flex min-h-7 items-center gap-2 text-[13px]">
            <RadioGroup.Item
              value={what}
              onFocus={chosenByArrow(() => choose(what))}
              className="grid size-4 shrink-0 place-items-center rounded-full border border-ink-soft bg-case data-[state=checked]:border-verdigris"
            >
              <RadioGroup.Indicator className="size-2 rounded-full bg-verdigris" />
            </RadioGroup.Item>
            {outcomes[what]}
          </label>
          {decision?.what === what && about[what] !== undefined && <p className="ml-6 text-[12.5px] text-ink-soft">{about[what]}</p>}
          {decision?.what === what && what === 'takeOut' && <TheirWords decision={decision} onDecision={onDecision} />}
        </div>
      ))}
      {!source.choices.some((c) => c === 'takeOut' || c === 'silence' || c === 'cover') && (
        <p className="mt-1 text-[12.5px] text-ink-soft">
          To keep it without them, match their turns in its transcript, or cover them in the picture; then come back.
        </p>
      )}
    </RadioGroup.Root>
  );
}

/** The parts of a text of which nobody is known to have said them, to be ticked. */
function TheirWords({ decision, onDecision }: { decision: Decision; onDecision: (decision: Decision) => void }) {
  const { data: source } = useQuery(queries.source(decision.sourceId));
  if (!source) return null;
  const parts = unknownParts(source);
  const taken = decision.ranges ?? [];
  const has = (start: number) => taken.some((r) => r.start === start);
  return (
    <fieldset className="mt-1 ml-6 max-h-[300px] overflow-y-auto rounded-std border border-line bg-paper p-2 text-[13px]">
      <legend className="px-1 text-[12.5px] text-ink-soft">Tick what is theirs: {count(taken.length, 'part')} so far</legend>
      {parts.map((part) => (
        <label key={part.start} className="flex cursor-pointer items-start gap-2 rounded-[4px] px-1 py-1 hover:bg-wash">
          <input
            type="checkbox"
            className="mt-0.5 size-4 shrink-0 accent-verdigris"
            checked={has(part.start)}
            onChange={() =>
              onDecision({
                ...decision,
                basedOn: source.textHash,
                ranges: has(part.start) ? taken.filter((r) => r.start !== part.start) : [...taken, { start: part.start, end: part.end }],
              })
            }
          />
          <span>{source.text.slice(part.start, part.end)}</span>
        </label>
      ))}
    </fieldset>
  );
}
