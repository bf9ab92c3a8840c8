import { Link } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';
import { Button } from '@/parts/Button';
import { day, kindWords } from '@/parts/words';

type Line = Schemas['SourceLine'];

interface Props {
  studyId: number;
  sources: readonly Line[];
  people: readonly Schemas['Participant'][];
  onChange: (id: number) => void;
}

/** Everyone who takes part in a source, by its speakers and by hand. */
function namesIn(source: Line, people: Props['people']): string[] {
  const ids = new Set([...source.participantIds, ...source.speakers.flatMap((s) => (s.participantId === null ? [] : [s.participantId]))]);
  return people.filter((p) => ids.has(p.id)).map((p) => p.pseudonym);
}

export function SourceTable({ studyId, sources, people, onChange }: Props) {
  return (
    <table className="w-full">
      <thead>
        <tr className="border-b border-line text-left text-[12.5px] text-ink-soft">
          <th className="py-2 pr-4 font-medium">Title</th>
          <th className="py-2 pr-4 font-medium">Kind</th>
          <th className="py-2 pr-4 font-medium">Held on</th>
          <th className="py-2 pr-4 font-medium">People</th>
          <th className="py-2 pr-4 text-right font-medium">Observations</th>
          <th className="w-[130px] py-2 pr-4 font-medium">You have read</th>
          <th className="py-2">
            <span className="sr-only">Change</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {sources.map((source) => {
          const open = source.speakers.filter((s) => s.participantId === null && !s.isTeam);
          const read = source.length > 0 ? Math.min(1, (source.furthest ?? 0) / source.length) : 0;
          return (
            <tr key={source.id} className="border-b border-line hover:bg-wash">
              <td className="py-2 pr-4">
                <Link
                  to="/studies/$studyId/mark"
                  params={{ studyId }}
                  search={{ source: source.id }}
                  className="font-read text-[16px] font-medium hover:underline"
                >
                  {source.title}
                </Link>
              </td>
              <td className="py-2 pr-4">{kindWords[source.kind].one}</td>
              <td className="py-2 pr-4 whitespace-nowrap">{source.heldOn ? day(source.heldOn) : <span className="text-ink-soft">no date</span>}</td>
              <td className="py-2 pr-4">
                {namesIn(source, people).join(', ')}
                {open.length > 0 && (
                  <button type="button" className="ml-1 min-h-6 text-brass underline underline-offset-2" onClick={() => onChange(source.id)}>
                    {open.length === 1 ? `who is “${open[0]!.label}”?` : `${open.length} speakers to match`}
                  </button>
                )}
              </td>
              <td className="py-2 pr-4 text-right">{source.observations}</td>
              <td className="py-2 pr-4">
                <span className="flex items-center gap-2 text-[12px] text-ink-soft">
                  <span aria-hidden className="h-[3px] flex-1 rounded-full bg-line">
                    <span className="block h-full rounded-full bg-verdigris" style={{ width: `${read * 100}%` }} />
                  </span>
                  {source.furthest === null ? 'unread' : `${Math.round(read * 100)} %`}
                </span>
              </td>
              <td className="py-2 text-right">
                <Button look="quiet" onClick={() => onChange(source.id)} aria-label={`Change ${source.title}`}>
                  Change
                </Button>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
