import { Link } from '@tanstack/react-router';
import type { DragEvent } from 'react';
import type { Schemas } from '@/api/client';
import { Button } from '@/parts/Button';
import { day, kindWords } from '@/parts/words';

type Line = Schemas['SourceLine'];
type People = readonly Schemas['Participant'][];

/** Everyone who takes part in a source, by its speakers and by hand. */
export function namesIn(source: Line, people: People): string[] {
  const ids = new Set([...source.participantIds, ...source.speakers.flatMap((s) => (s.participantId === null ? [] : [s.participantId]))]);
  return people.filter((p) => ids.has(p.id)).map((p) => p.pseudonym);
}

interface Props {
  studyId: number;
  source: Line;
  people: People;
  chosen: boolean;
  onChoose: (on: boolean) => void;
  onChange: () => void;
  onDrag: (event: DragEvent, id: number) => void;
}

export function SourceRow({ studyId, source, people, chosen, onChoose, onChange, onDrag }: Props) {
  const open = source.speakers.filter((s) => s.participantId === null && !s.isTeam);
  const read = source.length > 0 ? Math.min(1, (source.furthest ?? 0) / source.length) : 0;
  return (
    <tr draggable onDragStart={(e) => onDrag(e, source.id)} className={`border-b border-line hover:bg-wash ${chosen ? 'bg-wash' : ''}`}>
      <td className="py-2">
        <input
          type="checkbox"
          aria-label={`Choose ${source.title}`}
          className="block size-4 accent-verdigris"
          checked={chosen}
          onChange={(e) => onChoose(e.target.checked)}
        />
      </td>
      <td className="py-2 pr-4">
        <Link
          to="/studies/$studyId/mark"
          params={{ studyId }}
          search={{ source: source.id }}
          draggable={false}
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
          <button type="button" className="ml-1 min-h-6 text-brass underline underline-offset-2" onClick={onChange}>
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
          {source.length === 0 ? 'kept' : source.furthest === null ? 'unread' : `${Math.round(read * 100)} %`}
        </span>
      </td>
      <td className="py-2 text-right">
        <Button look="quiet" onClick={onChange} aria-label={`Change ${source.title}`}>
          Change
        </Button>
      </td>
    </tr>
  );
}
