import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Waiting } from '@/parts/Empty';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook, TagUse } from '@/parts/tagLook';
import { ofPerson } from '@/shared/evidence';
import { useEvidence } from '@/shared/useEvidence';
import { count, ofPeople } from '@/parts/words';
import { asQuery, type Where } from '@/shared/filter/where';
import { shade } from './shade';

interface Props {
  studyId: number;
  columns: 'sources' | 'participants';
  tags: readonly TagUse[];
  participants: Schemas['Participants'];
  look: (id: number) => TagLook;
  where: Where | undefined;
}

/** With more columns than this, those without any observation are left out, and said. */
const mostColumns = 40;

const nothing: Schemas['Triple'] = { observations: 0, sources: 0, people: 0, unattributed: 0 };

/** "3 observations in 2 sources by 1 person", for hints and screen readers. */
function said(t: Schemas['Triple']): string {
  const by = t.people > 0 ? ` by ${count(t.people, 'person', 'people')}` : '';
  return `${count(t.observations, 'observation')} in ${count(t.sources, 'source')}${by}${t.unattributed > 0 ? `, ${t.unattributed} unattributed` : ''}`;
}

/** Tags against sources or participants. Families first with everything under them; the total is a triple with its people strip. */
export function CrossTable({ studyId, columns, tags, participants, look, where }: Props) {
  const { data: table, error } = useQuery(queries.table(studyId, columns, asQuery(where)));
  const { open, evidence } = useEvidence();
  if (!table) return <Waiting problem={error} />;
  const byPerson = columns === 'participants';
  const people = participants.people;
  const rows = new Map(table.rows.map((row, place) => [row.head.id, { ...row, place }]));
  const cells = new Map(table.cells.map((c) => [`${c.row} ${c.column}`, c.triple]));
  const parents = new Set(tags.map((t) => t.tag.parentId));
  const home = participants.attributes[0];
  const spoken = new Set(table.cells.map((c) => c.column));
  const tooMany = table.columns.length > mostColumns;
  const empty = tooMany ? table.columns.length - spoken.size : 0;
  const heads = table.columns.flatMap(({ id, name }, place) => {
    if (tooMany && !spoken.has(place)) return [];
    const person = byPerson ? people.find((p) => p.id === id) : undefined;
    return [{ id, place, name, below: (home && person?.values[home.id]) ?? '' }];
  });
  const ordered = tags
    .filter((t) => t.tag.parentId === null)
    .flatMap((top) => [top, ...tags.filter((t) => t.tag.parentId === top.tag.id)])
    .filter((t) => (rows.get(t.tag.id)?.breadth.triple.observations ?? 0) > 0);
  const most = table.cells.reduce((m, c) => (parents.has(table.rows[c.row]!.head.id) ? m : Math.max(m, c.triple.observations)), 1);
  const cellOf = (id: number) => (byPerson ? { participantIds: [id] } : { sourceIds: [id] });
  return (
    <>
      <table className="border-separate border-spacing-[3px] text-[13px]">
        <caption className="sr-only">{table.counts} Every number opens its words.</caption>
        <thead>
          <tr className="align-bottom">
            <th className="sticky left-0 z-10 min-w-[200px] bg-paper pb-1 text-left font-medium text-ink-soft">Tag</th>
            <th className="min-w-[180px] pb-1 text-left font-medium text-ink-soft">People, of those asked</th>
            <th className="pr-3 pb-1 text-right font-medium text-ink-soft">
              Observations
              <br />
              in sources
            </th>
            {heads.map((head) => (
              <th key={head.id} scope="col" className="w-[78px] min-w-[78px] pb-1 pl-1 text-left font-semibold">
                <button
                  type="button"
                  className="line-clamp-2 text-left leading-[1.25] hover:underline"
                  title={head.name}
                  onClick={() => open({ cell: cellOf(head.id) })}
                >
                  {head.name}
                </button>
                <span className="block truncate text-[11.5px] font-normal text-ink-soft">{head.below}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ordered.map(({ tag }) => {
            const row = rows.get(tag.id);
            if (!row) return null;
            const family = parents.has(tag.id);
            const { triple, outOf } = row.breadth;
            return (
              <tr key={tag.id} className={family ? 'font-semibold' : ''}>
                <th scope="row" className={`sticky left-0 z-10 bg-paper text-left ${family ? 'pt-3 font-semibold' : 'pl-3 font-normal'}`}>
                  <button
                    type="button"
                    className="inline-flex min-h-6 items-center gap-2 text-left hover:underline"
                    onClick={() => open({ tagId: tag.id })}
                    title={tag.definition || undefined}
                  >
                    {!family && <TagDot look={look(tag.id)} />}
                    {tag.name}
                  </button>
                </th>
                <td className={family ? 'pt-3' : ''}>
                  <span className="flex items-center gap-2.5 font-normal">
                    <PeopleStrip people={people} breadth={row.breadth} onPick={(p) => open(ofPerson({ tagId: tag.id }, p))} />
                    <span className="text-[12px] whitespace-nowrap text-ink-soft" title={ofPeople(triple.people, outOf)}>
                      {triple.people} of {outOf}
                    </span>
                  </span>
                </td>
                <td
                  className={`pr-3 text-right text-[12.5px] whitespace-nowrap ${family ? 'pt-3' : ''}`}
                  title={family ? `Of its own, without the tags under it: ${said(row.own)}` : said(triple)}
                >
                  {triple.observations} <span className="font-normal text-ink-soft">in {triple.sources}</span>
                </td>
                {heads.map((head) => {
                  const cell = cells.get(`${row.place} ${head.place}`) ?? nothing;
                  const of = { tagId: tag.id, cell: cellOf(head.id) };
                  const opened = evidence?.tagId === tag.id && (byPerson ? evidence.cell?.participantIds : evidence.cell?.sourceIds)?.includes(head.id);
                  return (
                    <td key={head.id} className={family ? 'pt-3' : ''}>
                      <button
                        type="button"
                        onClick={() => open(of)}
                        disabled={cell.observations === 0}
                        title={`${tag.name}, ${head.name}: ${said(cell)}`}
                        aria-label={`${tag.name}, ${head.name}: ${said(cell)}`}
                        className={`flex h-[30px] w-full min-w-[64px] items-center justify-between gap-1 rounded-[4px] px-2 enabled:hover:outline-2 enabled:hover:outline-verdigris ${opened ? 'outline-2 outline-ink' : ''} ${family ? 'border border-line' : ''}`}
                        style={{ background: family ? 'transparent' : shade(cell.observations / most) }}
                      >
                        <span className={cell.observations === 0 ? 'text-ink-soft/50' : 'font-semibold'}>{cell.observations || '·'}</span>
                        {!byPerson && cell.people > 1 && <span className="text-[11px] font-normal">{cell.people} people</span>}
                      </button>
                    </td>
                  );
                })}
              </tr>
            );
          })}
        </tbody>
      </table>
      {empty > 0 && (
        <p className="mt-4 text-[13px] text-ink-soft">
          {byPerson ? count(empty, 'participant') : count(empty, 'source')} without any observation {empty === 1 ? 'has' : 'have'} no column here.
        </p>
      )}
      {ordered.length === 0 && <p className="py-6 text-ink-soft">No tagged observation fits these conditions.</p>}
      <p className="mt-5 max-w-[760px] rounded-std bg-brass-wash px-4 py-2.5 text-[13px]">
        Numbers in cells are observations; read the people first. {ofPeople(table.inScope, people.length)} have a source that somebody has begun to read, and
        count as asked unless you said otherwise. With so few people a difference of one or two is no difference: open the cells and read the words.
      </p>
    </>
  );
}
