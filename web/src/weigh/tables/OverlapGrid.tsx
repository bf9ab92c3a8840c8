import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { queries } from '@/api/queries';
import { Waiting } from '@/parts/Empty';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook, TagUse } from '@/parts/tagLook';
import { useEvidence } from '@/shared/useEvidence';
import { count } from '@/parts/words';
import { asQuery, type Where } from '@/shared/filter/where';
import { shade } from './shade';

interface Props {
  studyId: number;
  kind: 'sameObservation' | 'touching';
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
  where: Where | undefined;
}

const explained = {
  sameObservation: 'Two tags on one observation. Jaccard: observations with both, of those with either.',
  touching: 'Observations of the two tags share words. Jaccard: shared text, of all text that either covers.',
};

/** Every tag in use against every other: the pair count, shaded by Jaccard. Tags that overlap nothing are left out and said. */
export function OverlapGrid({ studyId, kind, tags, look, where }: Props) {
  const { data: cells, error } = useQuery(queries.overlaps(studyId, kind, asQuery(where)));
  const { open, evidence } = useEvidence();
  const chooser = (
    <div className="mb-3 flex items-center gap-2 text-[13px]" role="group" aria-label="Kind of overlap">
      {(['sameObservation', 'touching'] as const).map((k) => (
        <Link
          key={k}
          to="/studies/$studyId/weigh"
          params={{ studyId }}
          search={{ view: 'overlaps', ...(k === 'touching' && { overlap: k }), ...(where && { where }) }}
          aria-current={k === kind ? 'true' : undefined}
          className={`inline-flex min-h-8 items-center rounded-std border px-3 ${k === kind ? 'border-verdigris bg-wash font-semibold' : 'border-line bg-case'}`}
        >
          {k === 'touching' ? 'touching' : 'same observation'}
        </Link>
      ))}
      <span className="text-ink-soft">{explained[kind]}</span>
    </div>
  );
  if (!cells) return <Waiting problem={error} />;
  const key = (a: number, b: number) => (a < b ? `${a}-${b}` : `${b}-${a}`);
  const byPair = new Map(cells.map((c) => [key(c.tagId, c.otherTagId), c]));
  const inUse = tags.filter((t) => t.own.observations > 0);
  const shown = inUse.filter((t) => cells.some((c) => c.tagId === t.tag.id || c.otherTagId === t.tag.id));
  if (shown.length === 0)
    return (
      <>
        {chooser}
        <p className="py-8 text-ink-soft">No two tags overlap in this way yet.</p>
      </>
    );
  const most = cells.reduce((m, c) => Math.max(m, c.jaccard), 0);
  return (
    <>
      {chooser}
      <table className="border-separate border-spacing-[2px] text-[12.5px]">
        <caption className="sr-only">Overlaps of tags; every number opens its words</caption>
        <thead>
          <tr>
            <td />
            {shown.map(({ tag }) => (
              <th key={tag.id} scope="col" className="relative h-[118px] w-[34px] min-w-[34px] p-0 font-medium">
                {/* The box is turned, not the letters, so that quotes and apostrophes stand upright in it. */}
                <span
                  className="absolute bottom-1 left-1/2 w-[112px] origin-left truncate text-left"
                  style={{ transform: 'translateY(50%) rotate(-90deg)' }}
                  title={tag.name}
                >
                  {tag.name}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map(({ tag: a }, i) => (
            <tr key={a.id}>
              <th scope="row" className="sticky left-0 bg-paper pr-2 text-left font-medium whitespace-nowrap">
                <span className="inline-flex items-center gap-2">
                  <TagDot look={look(a.id)} />
                  {a.name}
                </span>
              </th>
              {shown.map(({ tag: b }, j) => {
                if (i === j) return <td key={b.id} className="rounded-[3px] bg-line/60" aria-hidden />;
                const cell = byPair.get(key(a.id, b.id));
                if (!cell) return <td key={b.id} className="bg-case" />;
                const words = `${a.name} and ${b.name}: ${count(cell.pairs, 'pair')}, Jaccard ${cell.jaccard.toFixed(2)}, ${cell.lift.toFixed(1)} times what chance alone would give`;
                const opened = evidence && key(evidence.tagId ?? 0, evidence.otherTagId ?? 0) === key(a.id, b.id);
                return (
                  <td key={b.id}>
                    <button
                      type="button"
                      title={words}
                      aria-label={words}
                      onClick={() => open({ tagId: a.id, otherTagId: b.id, overlap: kind })}
                      className={`grid h-[28px] w-full place-items-center rounded-[3px] font-semibold hover:outline-2 hover:outline-verdigris ${opened ? 'outline-2 outline-ink' : ''}`}
                      style={{ background: shade(cell.jaccard / most) }}
                    >
                      {cell.pairs}
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {shown.length < inUse.length && (
        <p className="mt-3 text-[12.5px] text-ink-soft">
          {count(inUse.length - shown.length, 'tag')} in use overlap{inUse.length - shown.length === 1 ? 's' : ''} no other and{' '}
          {inUse.length - shown.length === 1 ? 'is' : 'are'} left out.
        </p>
      )}
    </>
  );
}
