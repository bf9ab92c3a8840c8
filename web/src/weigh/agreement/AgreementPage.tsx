import { useQuery } from '@tanstack/react-query';
import { useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useRef, useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Empty, Waiting } from '@/parts/Empty';
import { TagDot } from '@/parts/TagLabel';
import { ActionKey } from '@/parts/actions/ActionButton';
import { ActionHints } from '@/parts/actions/ActionHints';
import { usePageActions, useRowActions } from '@/parts/actions/registry';
import { differing, settling, type DifferingActs } from './actions';
import { useTagLook } from '@/parts/useTagLook';
import { Box, Word } from '@/parts/WordChoices';
import { count } from '@/parts/words';
import { Interval } from './Interval';
import { DefineTag } from '@/shared/DefineTag';
import { Disagreement } from './Disagreement';
import { kappaInWords, rareBelow, whyUndefined, type Outcome } from './inWords';

const at = '/team/studies/$studyId/weigh/agreement';

/** How far two people mark alike, tag by tag; and where they do not, in context. */
export function AgreementPage() {
  const { studyId } = useParams({ from: at });
  const search = useSearch({ from: at });
  const navigate = useNavigate();
  const { data: taggers, error } = useQuery(queries.taggers(studyId));
  const tags = useQuery(queries.tags(studyId)).data;
  const sources = useQuery(queries.sources(studyId)).data;
  const look = useTagLook(tags);
  const first = search.first ?? taggers?.[0]?.accountId ?? 0;
  const second = search.second ?? taggers?.find((t) => t.accountId !== first)?.accountId ?? 0;
  const of = { first, second, unit: search.unit ?? ('sentence' as const), sourceId: search.source === undefined ? [] : [search.source] };
  const two = first !== 0 && second !== 0 && first !== second;
  const found = useQuery({ ...queries.agreement(studyId, of), enabled: two });
  // Families count what stands under them: after the tags themselves, which is where two people differ.
  const families = new Set(tags?.map((t) => t.parentId));
  const rows = (found.data?.tags ?? []).toSorted((a, b) => Number(families.has(a.tagId)) - Number(families.has(b.tagId)) || disagreed(b) - disagreed(a));
  const [defining, setDefining] = useState(false);
  const tagId = search.tag ?? rows[0]?.tagId;
  const differ = useQuery({ ...queries.disagreements(studyId, { ...of, tagId: tagId ?? 0 }), enabled: two && tagId !== undefined }).data;
  const settled = differ?.filter((d) => d.settled && d.settled.outcome !== 'talk').length ?? 0;
  const list = useRef<HTMLUListElement>(null);
  const change = (part: Partial<typeof search>) =>
    void navigate({
      to: '/studies/$studyId/weigh/agreement',
      params: { studyId },
      search: { ...search, ...part },
      replace: true,
    });
  const step = (by: 1 | -1) => {
    const items = [...(list.current?.querySelectorAll<HTMLElement>('li') ?? [])];
    items[items.findIndex((item) => item.contains(document.activeElement)) + by]?.focus();
  };
  const settle = useWrite(
    (given: { unit: Schemas['UnitGiven']; outcome: Outcome }) =>
      ask(api.POST('/api/studies/{studyId}/agreement/settlements', { params: { path: { studyId } }, body: { first, second, ...given } })),
    { quiet: true },
  );
  const acts: DifferingActs = { step, define: tagId === undefined ? null : () => setDefining(true) };
  usePageActions(differing, acts);
  useRowActions(settling);
  if (!taggers || !tags || !sources) return <Waiting problem={error} />;
  if (taggers.length < 2)
    return (
      <Empty title="One person has marked so far" sample="“told by neighbours: both 4, only Ida 2, only Tom 1, kappa 0.71”">
        As soon as two people have marked the same source, this shows how far they agree, and where they do not.
      </Empty>
    );
  const name = (id: number) => taggers.find((t) => t.accountId === id)?.name.split(' ')[0] ?? '';
  const title = (id: number) => sources.find((s) => s.id === id)?.title ?? '';
  const chosen = rows.find((r) => r.tagId === tagId);
  const pick = (which: 'first' | 'second', id: number) => change({ first, second, [which]: id, tag: undefined });
  const who = (which: 'first' | 'second', id: number, other: number) => (
    <Word label={name(id)} set>
      {taggers
        .filter((t) => t.accountId !== other)
        .map((t) => (
          <Box key={t.accountId} label={`${t.name}, ${count(t.sources, 'source')}`} on={t.accountId === id} onChange={() => pick(which, t.accountId)} />
        ))}
    </Word>
  );
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_460px]">
      <div className="min-w-0 overflow-y-auto px-6 py-5">
        <h1 className="font-read text-[22px] font-semibold">Agreement</h1>
        <div className="mt-1 flex flex-wrap items-center gap-x-2 text-[12.5px] text-ink-soft">
          <span>between</span>
          {who('first', first, second)}
          <span>and</span>
          {who('second', second, first)}
          <span>over</span>
          <Word label={`${of.unit}s`} set={of.unit !== 'sentence'}>
            <Box label="sentences" on={of.unit === 'sentence'} onChange={() => change({ unit: undefined, tag: undefined })} />
            <Box label="turns" on={of.unit === 'turn'} onChange={() => change({ unit: 'turn', tag: undefined })} />
            <Box label="seconds of recordings" on={of.unit === 'second'} onChange={() => change({ unit: 'second', tag: undefined })} />
          </Word>
          <span>of</span>
          <Word label={search.source === undefined ? 'all that both have marked' : title(search.source)} set={search.source !== undefined}>
            {(search.source === undefined ? (found.data?.sources ?? []) : [search.source]).map((id) => (
              <Box
                key={id}
                label={title(id)}
                on={search.source === id}
                onChange={() => change({ source: search.source === id ? undefined : id, tag: undefined })}
              />
            ))}
          </Word>
        </div>
        {found.error && (
          <p role="alert" className="py-3 text-oxblood">
            {found.error.message}
          </p>
        )}
        {found.data && found.data.stillBlind.length > 0 && (
          <p className="py-2 text-[12.5px] text-brass">
            Still tagged blind, and compared once {found.data.stillBlind.length === 1 ? 'it is' : 'they are'} open:{' '}
            {found.data.stillBlind.map(title).join(', ')}
          </p>
        )}
        {found.data?.sources.length === 0 && (
          <p className="py-6 text-ink-soft">
            {name(first)} and {name(second)} have not marked the same {of.unit === 'second' ? 'recording' : 'source'} yet.
          </p>
        )}
        {chosen && (
          <>
            <h2 className="mt-5 flex items-baseline gap-2 font-read text-[18px] font-semibold">
              <TagDot look={look(chosen.tagId)} /> {look(chosen.tagId).name}
              <span className="font-use text-[13px] font-normal text-ink-soft">
                {disagreed(chosen) === 0 ? 'they agree everywhere' : `they differ on ${count(disagreed(chosen), of.unit)}`}
                {settled > 0 && `, ${settled} settled`}
              </span>
              <button
                type="button"
                className="ml-auto min-h-6 font-use text-[12.5px] font-normal whitespace-nowrap text-sky hover:underline"
                onClick={() => setDefining(true)}
              >
                {differing.actions.define.name} <ActionKey of={differing.actions.define} />
              </button>
            </h2>
            <p className="mt-0.5 text-[12.5px] text-ink-soft">
              {tags.find((t) => t.id === chosen.tagId)?.definition || 'It has no definition yet: that alone can be why.'}
            </p>
            <p className="mt-2 text-[12.5px] text-ink-soft">
              {name(first)}’s thread runs over the words, {name(second)}’s under them. Figures count what was marked before anything was settled.
            </p>
          </>
        )}
        {chosen && differ && differ.length > 0 && (
          <p className="mt-1 text-[12.5px] text-ink-soft">
            <ActionHints of={[differing.actions.next, differing.actions.previous, settling.actions.settle]} />
          </p>
        )}
        <ul ref={list} aria-label="Where they differ">
          {(differ ?? []).map((d) => (
            <Disagreement
              key={`${d.sourceId}:${d.start}`}
              studyId={studyId}
              of={d}
              first={name(first)}
              second={name(second)}
              turned={d.settled !== null && d.settled.firstAccountId !== first}
              title={title(d.sourceId)}
              look={look}
              colour={look(tagId!).colour}
              onSettle={(outcome) => settle.mutate({ unit: { sourceId: d.sourceId, start: d.start, end: d.end, inTime: d.inTime }, outcome })}
            />
          ))}
        </ul>
      </div>
      {defining && chosen && <DefineTag tag={tags.find((t) => t.id === chosen.tagId)!} tags={tags} onClose={() => setDefining(false)} />}
      <aside aria-label="How far they agree" className="overflow-y-auto border-l border-line bg-case px-5 py-5">
        <h2 className="font-semibold">How far they agree</h2>
        {found.data && (
          <>
            <p className="text-[12.5px] text-ink-soft">
              {count(found.data.units, of.unit)} of {count(found.data.sources.length, 'source')}, {count(rows.length, 'tag')}; all together{' '}
              {kappaInWords(found.data.all)}
            </p>
            <table className="mt-2 w-full text-[13px] tabular-nums">
              <thead>
                <tr className="text-right text-[12px] text-ink-soft">
                  <th className="pb-1 text-left font-normal">tag</th>
                  <th className="pb-1 font-normal">both</th>
                  <th className="pb-1 font-normal">{name(first)}</th>
                  <th className="pb-1 font-normal">{name(second)}</th>
                  <th className="pb-1 font-normal">same</th>
                  <th className="pb-1 font-normal">kappa</th>
                  <th className="w-[70px] pb-1 font-normal">
                    <span className="sr-only">95 % interval</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {rows.map((r) => (
                  <tr
                    key={r.tagId}
                    className={`border-t border-line text-right ${families.has(r.tagId) ? 'text-ink-soft' : ''} ${r.tagId === tagId ? 'bg-brass-wash' : ''}`}
                  >
                    <th scope="row" className="text-left font-normal">
                      <button
                        type="button"
                        aria-pressed={r.tagId === tagId}
                        className="inline-flex min-h-7 items-center gap-1.5 text-left hover:underline"
                        onClick={() => change({ tag: r.tagId })}
                      >
                        <TagDot look={look(r.tagId)} /> {look(r.tagId).name}
                      </button>
                    </th>
                    <td>{r.table.both}</td>
                    <td>{r.table.onlyFirst}</td>
                    <td>{r.table.onlySecond}</td>
                    <td>{r.cohen.percent === null ? '' : `${Math.round(r.cohen.percent * 100)} %`}</td>
                    <td className="font-semibold">{r.cohen.kappa === null ? '–' : r.cohen.kappa.toFixed(2)}</td>
                    <td>
                      <Interval kappa={r.cohen.kappa} error={r.cohen.standardError} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {chosen && <Why row={chosen} units={found.data.units} unit={of.unit} people={found.data.people} name={look(chosen.tagId).name} />}
          </>
        )}
      </aside>
    </div>
  );
}

const disagreed = (r: Schemas['AgreementOnTag']) => r.table.onlyFirst + r.table.onlySecond;

/** What the figures of a tag mean, and why kappa can be low. */
function Why({ row, units, unit, people, name }: { row: Schemas['AgreementOnTag']; units: number; unit: string; people: number; name: string }) {
  const { cohen, alpha, table } = row;
  const marked = table.both + table.onlyFirst + table.onlySecond;
  return (
    <div className="mt-4 rounded-std bg-brass-wash px-3 py-2.5 text-[12.5px]">
      <p>
        {cohen.undefined ? whyUndefined(cohen.undefined) : `Cohen’s kappa ${cohen.kappa!.toFixed(2)}, standard error ${cohen.standardError!.toFixed(2)}.`}{' '}
        {marked <= units * rareBelow &&
          !cohen.undefined &&
          `“${name}” is rare here (${marked} of ${count(units, unit)}). Kappa falls low for rare tags even when people mostly agree: look at the words, not at the number.`}
      </p>
      {cohen.prevalence !== null && (
        <p className="mt-1 text-ink-soft">
          Prevalence {cohen.prevalence.toFixed(2)}, bias {cohen.bias!.toFixed(2)}; without both it would be {cohen.adjusted!.toFixed(2)}.
        </p>
      )}
      <p className="mt-1 text-ink-soft">
        {people === 2 ? 'The two' : `All ${people} who marked these sources`}: Krippendorff’s alpha{' '}
        {alpha.alpha === null
          ? 'is undefined'
          : `${alpha.alpha.toFixed(2)}${alpha.low === null ? '' : ` (95 % interval ${alpha.low.toFixed(2)} to ${alpha.high!.toFixed(2)})`}`}
        , Fleiss’ kappa {row.fleiss === null ? 'is undefined' : row.fleiss.toFixed(2)}.
      </p>
    </div>
  );
}
