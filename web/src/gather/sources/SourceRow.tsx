import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import type { DragEvent, ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { pressed } from '@/parts/actions/actions';
import { Button } from '@/parts/Button';
import { day, kindWords } from '@/parts/words';
import { sourceRows } from './actions';
import { useDropped } from './dragged';
import type { RowInView } from './useRowsInView';

type Line = Schemas['SourceLine'];

/** Everyone who takes part in a source, by the names that people are called. */
export function namesIn(source: Line, called: ReadonlyMap<number, string>): string[] {
  return source.peopleIds.flatMap((id) => called.get(id) ?? []);
}

interface Props {
  row: RowInView;
  studyId: number;
  source: Line;
  /** Who takes part in it. */
  names: readonly string[];
  observations: number;
  chosen: boolean;
  onChoose: (on: boolean) => void;
  onChange: () => void;
  onDrag: (event: DragEvent) => void;
  /** Moves it one place up or down in its folder. */
  onStep: (by: -1 | 1) => void;
  onDropBefore: (sourceIds: number[]) => void;
  /** Words of it that were looked for. */
  children?: ReactNode;
}

export function SourceRow({ row, studyId, source, names, observations, chosen, onChoose, onChange, onDrag, onStep, onDropBefore, children }: Props) {
  const { over, target } = useDropped(onDropBefore);
  const sessions = useQuery(queries.sessions(studyId)).data;
  // A session that is called like its only source says nothing new.
  const session = sessions?.find((s) => s.id === source.sessionId && s.title !== source.title);
  const open = source.speakers.filter((s) => s.participantId === null && !s.isTeam);
  const read = source.length > 0 ? Math.min(1, (source.furthest ?? 0) / source.length) : 0;
  return (
    <tr
      {...row}
      draggable
      data-source={source.id}
      onDragStart={onDrag}
      {...target}
      onKeyDown={(e) => pressed(sourceRows, onStep, e)}
      className={`border-b border-line align-baseline hover:bg-wash ${chosen ? 'bg-wash' : ''} ${over ? 'shadow-[inset_0_2px_0_var(--verdigris)]' : ''}`}
    >
      <td className="py-1.5">
        <input
          type="checkbox"
          aria-label={`Choose ${source.title}`}
          className="block size-4 accent-verdigris"
          checked={chosen}
          onChange={(e) => onChoose(e.target.checked)}
        />
      </td>
      <td className="py-1.5 pr-4">
        <Link
          to="/studies/$studyId/mark"
          params={{ studyId }}
          search={{ source: source.id }}
          draggable={false}
          className="font-read text-[16px] font-medium hover:underline"
        >
          {source.title}
        </Link>
        {source.channel && (
          <span className="block text-[12.5px] text-ink-soft">
            from {source.channel}
            {source.rating !== null && `, rated ${source.rating}`}
          </span>
        )}
        {session && <span className="block text-[12.5px] text-ink-soft">of “{session.title}”</span>}
        {children}
      </td>
      <td className="py-1.5 pr-4">{kindWords[source.kind].one}</td>
      <td className="py-1.5 pr-4 whitespace-nowrap">{source.heldOn ? day(source.heldOn) : <span className="text-ink-soft">no date</span>}</td>
      <td className="py-1.5 pr-4">
        {names.join(', ')}
        {names.length === 0 && source.kind === 'feedback' && <span className="text-ink-soft">unattributed</span>}
        {open.length > 0 && (
          <button type="button" className="ml-1 min-h-6 text-brass underline underline-offset-2" onClick={onChange}>
            {open.length === 1 ? `who is “${open[0]!.label}”?` : `${open.length} speakers to match`}
          </button>
        )}
      </td>
      <td className="py-1.5 pr-4 text-right">{observations}</td>
      <td className="py-1.5 pr-4">
        <span className="flex items-center gap-2 text-[12px] text-ink-soft">
          <span aria-hidden className="h-[3px] flex-1 rounded-full bg-line">
            <span className="block h-full rounded-full bg-verdigris" style={{ width: `${read * 100}%` }} />
          </span>
          {source.length === 0 ? 'kept' : source.furthest === null ? 'unread' : `${Math.round(read * 100)} %`}
        </span>
      </td>
      <td className="py-1.5 text-right">
        <Button look="quiet" onClick={onChange} aria-label={`Change ${source.title}`}>
          Change
        </Button>
      </td>
    </tr>
  );
}
