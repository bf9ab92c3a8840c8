import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { clock, count } from '@/parts/words';
import { NamesToLookAt } from './NamesToLookAt';
import { Speakers } from './Speakers';
import { styleWords } from './styleWords';
import { TurnReadings } from './TurnReadings';

const sureWords: Record<Schemas['Sureness'], string> = {
  sure: 'Nothing in it is doubtful.',
  doubtful: 'Some names in it are doubtful.',
  unsure: 'This is a guess. See the other ways to read it.',
};

/** How many of each kind of thing were found, in words. */
function found(look: Schemas['SourceLook'], speakers: number): string {
  const parts = [
    look.style === 'noTurns' ? count(look.turns, 'paragraph') : `${count(look.turns, 'turn')} by ${count(speakers, 'speaker')}`,
    look.pages > 1 && count(look.pages, 'page'),
    look.headings > 0 && count(look.headings, 'heading'),
    look.rows > 0 && `${count(look.rows, 'row')} of tables`,
    look.listItems > 0 && `${count(look.listItems, 'item')} of lists`,
    look.firstMs !== null && look.lastMs !== null && `from ${clock(look.firstMs)} to ${clock(look.lastMs)}`,
  ];
  return parts.filter(Boolean).join(', ');
}

interface Props {
  studyId: number;
  source: Schemas['SourceLine'];
  people: readonly Schemas['Participant'][];
  /** What was said when it came in: what was left out, and what was guessed. */
  remarks: string | null;
}

/** What was understood of one source, and what is doubtful in it. */
export function LookAtSource({ studyId, source, people, remarks }: Props) {
  const look = useQuery(queries.sourceLook(source.id)).data;
  const unmatched = source.speakers.filter((s) => s.participantId === null && !s.isTeam).length;
  if (!look) return null;
  // How many turns and names there were then is told anew above.
  const leftOut = remarks?.replace(/^[\d,]+ (turn|paragraph)s?[^.]*\.( [\d,]+ names? to look at\.)?/, '').trim();
  return (
    <section aria-label={source.title} className="mb-5 rounded-std border border-line bg-case px-5 py-4">
      <div className="flex items-baseline gap-3">
        <h2 className="font-read text-[18px] font-semibold">{source.title}</h2>
        <Link to="/studies/$studyId/mark" params={{ studyId }} search={{ source: source.id }} className="ml-auto font-medium text-sky hover:underline">
          Read it
        </Link>
      </div>
      <p className="mt-1">
        {found(look, source.speakers.length)}
        {look.style !== 'noTurns' && <span className="text-ink-soft">, written as “{styleWords[look.style]}”</span>}.{' '}
        <span className={look.sureness === 'sure' ? 'text-ink-soft' : 'font-medium text-brass'}>{sureWords[look.sureness]}</span>
      </p>
      {leftOut && <p className="mt-1 text-[13px] text-ink-soft">{leftOut}</p>}
      <NamesToLookAt studyId={studyId} sourceId={source.id} title={source.title} />
      {source.speakers.length > 0 && (
        <details className="mt-3" open={unmatched > 0}>
          <summary className="mb-2 cursor-pointer font-semibold">
            {unmatched > 0
              ? `${unmatched} of ${count(source.speakers.length, 'speaker')} not matched yet; nobody is counted until then`
              : 'Every speaker is matched'}
          </summary>
          <Speakers studyId={studyId} source={source} people={people} />
        </details>
      )}
      {source.length > 0 && <TurnReadings sourceId={source.id} />}
    </section>
  );
}
