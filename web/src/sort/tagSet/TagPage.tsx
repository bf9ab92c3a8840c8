import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { useState, type ReactNode } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { isBundle } from '@/parts/bundles';
import { Waiting } from '@/parts/Empty';
import { LongList } from '@/parts/LongList';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { QuoteItem, whoIs } from '@/parts/QuoteItem';
import { TagDot } from '@/parts/TagLabel';
import { useSettled } from '@/parts/useSettled';
import { useTagLook } from '@/parts/useTagLook';
import { Box, Word } from '@/parts/WordChoices';
import { count, kindWords, ofPeople, inSeconds } from '@/parts/words';
import { FilterLine } from '@/shared/filter/FilterLine';
import { asQuery } from '@/shared/filter/where';
import { useWhere } from '@/shared/filter/useWhere';
import { ofPerson } from '@/shared/evidence';
import { useEvidence } from '@/shared/useEvidence';
import { ToldQuotes } from '@/shared/ToldQuotes';
import { useGone } from '@/shared/useGone';
import { useQuotes } from '@/shared/useQuotes';
import { Bars } from './Bars';
import { AboutTag } from './AboutTag';
import { useTagActions } from './useTagActions';

/** An attribute with more values than this is no way to group people by. */
const mostGroups = 12;
/** So many sources and tags are listed before the rest is asked for. */
const mostListed = 8;
const none: readonly never[] = [];

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="mb-6">
      <h2 className="mb-1.5 text-[12.5px] font-semibold text-ink-soft">{title}</h2>
      {children}
    </section>
  );
}

/** A table of names and figures; a name opens its words where there is a way to. */
function Figures({ head, rows }: { head: string; rows: { key: string | number; name: string; figure: string; more: string; open?: () => void }[] }) {
  const [all, setAll] = useState(false);
  return (
    <>
      <table className="w-full text-[13px]">
        <caption className="sr-only">{head}</caption>
        <tbody>
          {rows.slice(0, all ? rows.length : mostListed).map((r) => (
            <tr key={r.key} className="border-t border-line align-baseline" title={r.more}>
              <th scope="row" className="py-1 pr-2 text-left font-normal">
                {r.open ? (
                  <button type="button" className="min-h-6 text-left wrap-anywhere hover:underline" onClick={r.open}>
                    {r.name}
                  </button>
                ) : (
                  <span className="inline-block min-h-6 wrap-anywhere">{r.name}</span>
                )}
              </th>
              <td className="py-1 text-right whitespace-nowrap text-ink-soft">{r.figure}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > mostListed && (
        <button type="button" className="min-h-6 text-[12.5px] text-sky hover:underline" onClick={() => setAll(!all)}>
          {all ? 'Fewer' : `All ${rows.length}`}
        </button>
      )}
    </>
  );
}

/** Everything about one tag in a study: what it is, who speaks under it, the quotes that say it best, and the one that does not fit. */
export function TagPage() {
  const { studyId, tagId } = useParams({ from: '/team/studies/$studyId/tags/$tagId' });
  const { where, setWhere } = useWhere();
  const tags = useQuery(queries.tags(studyId)).data;
  const people = useQuery(queries.participants(studyId)).data;
  const sources = useQuery(queries.sources(studyId)).data;
  const tag = tags?.find((t) => t.id === tagId);
  // A tag that has gone, by a merge or an undo, is not asked for again.
  const enabled = tags === undefined || tag !== undefined;
  const { data: page, error } = useQuery({ ...queries.tagPage(studyId, tagId, asQuery(where)), enabled });
  const time = useQuery({ ...queries.tagTime(studyId, tagId), enabled }).data;
  const told = useQuery({ ...queries.tellingQuotes(studyId, tagId, asQuery(where)), enabled }).data;
  const navigate = useNavigate();
  useGone(tags && tag !== undefined, () => void navigate({ to: '/studies/$studyId/sort/tags', params: { studyId } }));
  const look = useTagLook(tags);
  const { open } = useEvidence();
  const [byId, setBy] = useState<number | null>(null);
  const [typed, setTyped] = useState('');
  const words = useSettled(typed.trim(), 200);
  const quotes = useQuotes(queries.evidenceQuotes(studyId, { tagId }, words, asQuery(where)));
  const setExample = useWrite(
    ({ id, example }: { id: number; example: boolean }) =>
      ask(api.PUT('/api/observations/{id}/tags/{tagId}/example', { params: { path: { id, tagId } }, body: { example } })),
    { own: true },
  );
  const { acts, dialogs } = useTagActions({ tag, tags: tags ?? none, studyId, at: 'page' });
  if (!tags || !people || !sources || !page) return <Waiting problem={error} />;
  if (!tag) return <Waiting problem={new Error('There is no such tag in this study any more.')} />;
  const { triple, outOf, interval } = page.breadth;
  const parent = tags.find((t) => t.id === tag.parentId);
  const who = whoIs(people.people);
  const inWords = (t: Schemas['Triple']) =>
    `${count(t.observations, 'observation')}, ${count(t.sources, 'source')}, ${count(t.people, 'person', 'people')}${t.unattributed > 0 ? `, ${t.unattributed} unattributed` : ''}`;
  const grouping = people.attributes.filter((a) => {
    const n = page.groups.filter((g) => g.attributeId === a.id).length;
    return n > 0 && n <= mostGroups;
  });
  const by = grouping.find((a) => a.id === byId) ?? grouping[0];
  const steps = tag.scale
    ? Array.from({ length: Math.round((tag.scale.most - tag.scale.least) / tag.scale.step) + 1 }, (_, i) => tag.scale!.least + i * tag.scale!.step)
    : [];
  /** Picks a quote as an example of what the tag means; one of a tag under it is an example of that. */
  const asExample = (quote: Schemas['Quote']) => {
    if (!quote.tagIds.includes(tagId) || !told) return null;
    const example = told.examples.some((e) => e.observationId === quote.observationId);
    return (
      <button
        type="button"
        aria-pressed={example}
        className="min-h-6 text-[12px] text-sky underline-offset-2 hover:underline"
        onClick={() => setExample.mutate({ id: quote.observationId, example: !example })}
      >
        {example ? 'Not an example any more' : 'Use as example'}
      </button>
    );
  };
  return (
    <div className="h-full overflow-y-auto">
      {dialogs}
      <div className="mx-auto grid max-w-[1120px] grid-cols-[minmax(0,1fr)_300px] gap-x-12 px-6 py-6">
        <div className="min-w-0">
          {parent && (
            <Link to="/studies/$studyId/tags/$tagId" params={{ studyId, tagId: parent.id }} className="text-[13px] text-ink-soft hover:underline">
              {parent.name}
            </Link>
          )}
          <div className="flex items-baseline gap-3">
            <h1 className="flex items-baseline gap-2.5 font-read text-[26px] leading-tight font-semibold">
              <TagDot look={look(tag.id)} />
              {tag.name}
            </h1>
            {isBundle(tag) && <span className="text-[13px] text-ink-soft">bundle</span>}
            {!tag.settled && <span className="text-[13px] text-brass">draft</span>}
          </div>
          {acts && <AboutTag tag={tag} tags={tags} acts={acts} />}
          <div className="mt-3 border-y border-line py-1.5">
            <FilterLine studyId={studyId} where={where} onWhere={setWhere}>
              <span>Counted: observations</span>
            </FilterLine>
          </div>
          <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1">
            <PeopleStrip large people={people.people} breadth={page.breadth} onPick={(p) => open(ofPerson({ tagId }, p))} />
            <span className="font-medium">{ofPeople(triple.people, outOf)}</span>
            <span className="text-ink-soft">
              {count(triple.observations, 'observation')} in {count(triple.sources, 'source')}
              {triple.unattributed > 0 && `, ${triple.unattributed} unattributed`}
              {!isBundle(tag) && page.own.observations < triple.observations && `; ${page.own.observations} of them its own`}
              {page.breadth.notReviewed > 0 && (
                <>
                  ;{' '}
                  <Link to="/studies/$studyId/mark/found" params={{ studyId }} search={{ tag: tagId }} className="text-brass underline underline-offset-2">
                    {page.breadth.notReviewed} found, not reviewed
                  </Link>
                </>
              )}
              {time && time.ms > 0 && `; ${inSeconds(time.ms)} of recordings${time.estimatedMs > 0 ? `, ${inSeconds(time.estimatedMs)} of it estimated` : ''}`}
            </span>
          </div>
          {interval && triple.people > 0 && (
            <p className="mt-1 text-[12.5px] text-ink-soft">
              {Math.round(interval.share * 100)} % of those asked; the true share may lie anywhere from {Math.round(interval.low * 100)} to{' '}
              {Math.round(interval.high * 100)} % (95 % interval).
            </p>
          )}
          {told && told.examples.length > 0 && (
            <section aria-label="Examples" className="mt-7">
              <h2 className="font-read text-[18px] font-semibold">{told.examples.length === 1 ? 'Example' : 'Examples'}</h2>
              <ul className="border-l-2 pl-4" style={{ borderColor: look(tag.id).colour }}>
                {told.examples.map((quote) => (
                  <li key={quote.observationId} className="py-2">
                    <QuoteItem quote={quote} who={who(quote.participantId)} studyId={studyId}>
                      {asExample(quote)}
                    </QuoteItem>
                  </li>
                ))}
              </ul>
            </section>
          )}
          {told && (
            <ToldQuotes told={told} who={who} studyId={studyId} colour={look(tag.id).colour} ask="is it meant by this tag?">
              {asExample}
            </ToldQuotes>
          )}
          <section aria-label="All quotes" className="mt-8">
            <div className="mb-1 flex items-baseline gap-3">
              <h2 className="font-read text-[18px] font-semibold">All quotes</h2>
              <span className="text-[12.5px] text-ink-soft">
                {words === '' ? count(triple.observations, 'quote') : `${quotes.total ?? 0} of ${triple.observations}`}, by person
              </span>
              <input
                aria-label="Find in these quotes"
                placeholder="Find in these quotes"
                value={typed}
                onChange={(e) => setTyped(e.target.value)}
                className="ml-auto w-[200px] rounded-std border border-line bg-case px-2.5 py-1 text-[13px] placeholder:text-ink-soft"
              />
            </div>
            {quotes.total === 0 && (
              <p className="border-t border-line py-4 text-ink-soft">
                {words === '' ? 'Nothing carries this tag yet. Select some words in Mark and give it to them.' : 'No quote holds these words.'}
              </p>
            )}
            <LongList
              label="Quotes"
              items={quotes.quotes}
              keyOf={(q) => q.observationId}
              height={96}
              total={quotes.total ?? 0}
              onNearEnd={quotes.more}
              className="max-h-[620px]"
            >
              {(quote, i) => (
                <div className="border-t border-line py-2.5 pr-3">
                  {quotes.quotes[i - 1]?.participantId !== quote.participantId && (
                    <h3 className="pb-1 text-[12.5px] font-semibold text-ink-soft">{who(quote.participantId)}</h3>
                  )}
                  <QuoteItem quote={quote} who={who(quote.participantId)} studyId={studyId} look={look}>
                    {asExample(quote)}
                  </QuoteItem>
                </div>
              )}
            </LongList>
          </section>
        </div>
        <aside aria-label="Figures" className="pt-2">
          {page.sentiments.some((s) => s.sentiment !== null) && (
            <Part title="Sentiment">
              <Bars
                of={(['negative', 'neutral', 'positive', 'mixed', null] as const).map((s) => ({
                  name: s ?? 'none given',
                  count: page.sentiments.find((x) => x.sentiment === s)?.count ?? 0,
                  faint: s === null,
                }))}
              />
            </Part>
          )}
          {tag.scale && (
            <Part title={`Values${tag.scale.unit ? `, ${tag.scale.unit}` : ''}`}>
              <Bars
                of={(steps.length <= mostGroups ? steps : page.values.map((v) => v.value)).map((v) => ({
                  name: `${v}${v === tag.scale!.least && tag.scale!.lowLabel ? `, ${tag.scale!.lowLabel}` : ''}${v === tag.scale!.most && tag.scale!.highLabel ? `, ${tag.scale!.highLabel}` : ''}`,
                  count: page.values.find((x) => x.value === v)?.count ?? 0,
                }))}
              />
            </Part>
          )}
          {page.beside.length > 0 && (
            <Part title="On the same observations">
              <Figures
                head="Tags on the same observations"
                rows={page.beside.map((b) => ({
                  key: b.tagId,
                  name: look(b.tagId).name,
                  figure: `${b.both} of ${triple.observations}`,
                  more: `${count(b.both, 'observation')} with both`,
                  open: () => open({ tagId, otherTagId: b.tagId, overlap: 'sameObservation' }),
                }))}
              />
            </Part>
          )}
          {by && (
            <section aria-label="By attribute" className="mb-6">
              <h2 className="mb-1.5 text-[12.5px] font-semibold text-ink-soft">
                By{' '}
                <Word label={by.name} set={false}>
                  {grouping.map((a) => (
                    <Box key={a.id} label={a.name} on={a.id === by.id} onChange={() => setBy(a.id)} />
                  ))}
                </Word>
              </h2>
              <Figures
                head={`People by ${by.name}`}
                rows={page.groups
                  .filter((g) => g.attributeId === by.id)
                  .map((g) => ({
                    key: g.value,
                    name: g.value,
                    figure: ofPeople(g.triple.people, g.outOf),
                    more: inWords(g.triple),
                    open: () => open({ tagId, cell: { values: [{ attributeId: by.id, value: g.value }] } }),
                  }))}
              />
            </section>
          )}
          {page.kinds.length > 0 && (
            <Part title="By kind of source">
              <Figures
                head="Observations by kind of source"
                rows={page.kinds.map((k) => ({
                  key: k.kind,
                  name: kindWords[k.kind].many,
                  figure: `${k.triple.observations}, ${count(k.triple.people, 'person', 'people')}`,
                  more: inWords(k.triple),
                  open: () => open({ tagId, cell: { sourceKinds: [k.kind] } }),
                }))}
              />
            </Part>
          )}
          {page.sources.length > 0 && (
            <Part title="By source">
              <Figures
                head="Observations by source"
                rows={page.sources.map((s) => ({
                  key: s.sourceId,
                  name: sources.find((x) => x.id === s.sourceId)?.title ?? '',
                  figure: String(s.triple.observations),
                  more: [inWords(s.triple), ...(time?.sources ?? []).filter((t) => t.sourceId === s.sourceId).map((t) => inSeconds(t.ms))].join(', '),
                  open: () => open({ tagId, cell: { sourceIds: [s.sourceId] } }),
                }))}
              />
            </Part>
          )}
        </aside>
      </div>
    </div>
  );
}
