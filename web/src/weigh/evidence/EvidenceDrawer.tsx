import { claimOf } from '@/shared/claim';
import { putInTheme } from '@/shared/putInTheme';
import { useQuotes } from '@/shared/useQuotes';
import { useTagUses } from '@/shared/useTagUses';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import { api, ask } from '@/api/client';
import { queries, type EvidenceOf } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button, Key } from '@/parts/Button';
import { LongList } from '@/parts/LongList';
import { MakeInsight } from '@/shared/MakeInsight';
import { asQuery } from '@/shared/filter/where';
import { useWhere } from '@/shared/filter/useWhere';
import { NotAskedPicker } from './NotAskedPicker';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { QuoteItem, whoIs } from '@/parts/QuoteItem';
import { TagLine } from '@/parts/TagLine';
import { useTagLook } from '@/parts/useTagLook';
import { count, kindWords, ofPeople } from '@/parts/words';

/** What the drawer shows, in words. */
function useTitle(studyId: number, of: EvidenceOf): string {
  const tags = useQuery(queries.tags(studyId)).data;
  const people = useQuery(queries.participants(studyId)).data?.people;
  const sources = useQuery(queries.sources(studyId)).data;
  const themes = useQuery({ ...queries.sorting(studyId), enabled: of.themeId !== undefined }).data?.themes;
  const tagName = (id: number) => tags?.find((t) => t.id === id)?.name ?? '';
  const parts = [
    of.tagId !== undefined &&
      (of.otherTagId === undefined ? tagName(of.tagId) : `${tagName(of.tagId)} ${of.overlap === 'touching' ? 'touching' : 'and'} ${tagName(of.otherTagId)}`),
    ...(themes ?? []).filter((t) => t.theme.id === of.themeId).map((t) => claimOf(t.theme)),
    ...(of.cell?.participantIds ?? []).map((id) => people?.find((p) => p.id === id)?.pseudonym),
    ...(of.cell?.values ?? []).map((v) => v.value || 'not said'),
    ...(of.cell?.sourceKinds ?? []).map((kind) => kindWords[kind].many.toLowerCase()),
    ...(of.cell?.sourceIds ?? []).map((id) => sources?.find((s) => s.id === id)?.title),
  ].filter(Boolean);
  return parts.join(', ') || 'All observations';
}

/** From the right, the same everywhere: the words behind any number, cell or label. */
export function EvidenceDrawer({ studyId, of, onClose }: { studyId: number; of: EvidenceOf; onClose: () => void }) {
  const title = useTitle(studyId, of);
  const { where } = useWhere();
  const { data, error } = useQuery(queries.evidence(studyId, of, asQuery(where)));
  const pages = useQuotes(queries.evidenceQuotes(studyId, of, '', asQuery(where)));
  const people = useQuery(queries.participants(studyId)).data?.people ?? [];
  const { tags } = useTagUses(studyId);
  const themes = useQuery(queries.sorting(studyId)).data?.themes ?? [];
  const look = useTagLook(tags?.map((t) => t.tag));
  const heading = useRef<HTMLHeadingElement>(null);
  const navigate = useNavigate();
  const [chosen, setChosen] = useState<number[]>([]);
  const [tagging, setTagging] = useState(false);
  const [making, setMaking] = useState(false);
  const key = JSON.stringify(of);
  useEffect(() => {
    heading.current?.focus();
  }, [key]);

  const all = data?.observationIds ?? [];
  const there = useMemo(() => new Set(data?.observationIds), [data]);
  const selected = chosen.filter((id) => there.has(id));
  const meant = selected.length > 0 ? selected : all;
  const putIntoTheme = useWrite((themeId: number) => putInTheme(themeId, { observationIds: meant }));
  const tag = useWrite((given: { tagIds: number[]; newTags: string[] }) =>
    ask(api.POST('/api/studies/{studyId}/observations/tags', { params: { path: { studyId } }, body: { observationIds: meant, ...given } })),
  );
  const name = whoIs(people);
  const what = selected.length > 0 ? `${selected.length} chosen` : `all ${all.length}`;

  return (
    <aside
      aria-label="Evidence"
      onKeyDown={(e) => e.key === 'Escape' && !e.defaultPrevented && onClose()}
      className="fixed top-[102px] right-0 bottom-0 z-30 flex w-[392px] max-w-full animate-rise flex-col border-l border-line bg-case shadow-float"
    >
      <header className="px-5 pt-4 pb-3">
        <div className="flex items-center justify-between text-[12px] font-medium text-ink-soft">
          {where ? 'Evidence, under the conditions of this page' : 'Evidence'}
          <button type="button" onClick={onClose} aria-label="Close the evidence" className="min-h-6 min-w-6">
            <Key>Esc</Key>
          </button>
        </div>
        <h2 ref={heading} tabIndex={-1} className="font-read text-lg leading-snug font-semibold outline-none">
          {title}
        </h2>
        {of.tagId !== undefined && of.otherTagId === undefined && (
          <Link to="/studies/$studyId/tags/$tagId" params={{ studyId, tagId: of.tagId }} className="text-[12.5px] text-sky hover:underline">
            Everything about this tag
          </Link>
        )}
        {of.themeId !== undefined && (
          <Link to="/studies/$studyId/sort/themes/$themeId" params={{ studyId, themeId: of.themeId }} className="text-[12.5px] text-sky hover:underline">
            Everything about this theme
          </Link>
        )}
        {data && (
          <div className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px] text-ink-soft">
            <PeopleStrip people={people} breadth={data.breadth} />
            <span>
              {ofPeople(data.breadth.triple.people, data.breadth.outOf)}, {count(data.breadth.triple.observations, 'observation')},{' '}
              {count(data.breadth.triple.sources, 'source')}
              {data.breadth.triple.unattributed > 0 && `, ${data.breadth.triple.unattributed} unattributed`}
              {data.breadth.notReviewed > 0 && <span className="text-brass">, {data.breadth.notReviewed} found, not reviewed</span>}
            </span>
          </div>
        )}
        {data?.breadth.interval && (of.tagId ?? of.themeId) !== undefined && !of.cell && (
          <p className="mt-1 text-[12px] text-ink-soft">
            {Math.round(data.breadth.interval.share * 100)} % of those asked; the true share may lie anywhere from {Math.round(data.breadth.interval.low * 100)}{' '}
            to {Math.round(data.breadth.interval.high * 100)} % (95 % interval).
          </p>
        )}
        {data && of.otherTagId === undefined && !of.cell && (of.tagId !== undefined || of.themeId !== undefined) && (
          <NotAskedPicker
            key={key}
            studyId={studyId}
            thing={of.tagId !== undefined ? 'tag' : 'theme'}
            id={(of.tagId ?? of.themeId)!}
            people={people}
            notAsked={data.notAsked}
          />
        )}
      </header>
      {(error ?? pages.error) && (
        <p role="alert" className="px-5">
          {(error ?? pages.error)!.message}
        </p>
      )}
      {data?.observationIds.length === 0 && <p className="mx-5 border-t border-line py-4 text-ink-soft">No observation stands behind this yet.</p>}
      <LongList
        key={key}
        label="Quotes"
        items={pages.quotes}
        keyOf={(q) => q.observationId}
        height={110}
        total={all.length}
        onNearEnd={pages.more}
        className="min-h-0 flex-1 px-5"
      >
        {(quote) => (
          <div className="flex gap-2.5 border-t border-line py-3">
            <input
              type="checkbox"
              aria-label={`Choose “${quote.words.slice(0, 40)}”`}
              className="mt-1.5 size-4 shrink-0 accent-verdigris"
              checked={chosen.includes(quote.observationId)}
              onChange={(e) => setChosen(e.target.checked ? [...chosen, quote.observationId] : chosen.filter((id) => id !== quote.observationId))}
            />
            <div className="min-w-0 flex-1">
              <QuoteItem quote={quote} who={name(quote.participantId)} studyId={studyId} />
            </div>
          </div>
        )}
      </LongList>
      {all.length > 0 && (
        <footer className="relative border-t border-line px-5 py-3">
          {tagging && (
            <div className="absolute right-4 bottom-14 left-4">
              <TagLine
                tags={tags ?? []}
                look={look}
                recent={[]}
                onCancel={() => setTagging(false)}
                onDone={(tagIds, newTags) => {
                  setTagging(false);
                  if (tagIds.length + newTags.length > 0) tag.mutate({ tagIds, newTags });
                }}
              />
            </div>
          )}
          <p className="mb-2 text-[12px] text-ink-soft">With {what}:</p>
          <div className="flex gap-2">
            <Button look="main" onClick={() => setMaking(true)}>
              Make an insight
            </Button>
            <DropdownMenu.Root>
              <DropdownMenu.Trigger asChild>
                <Button disabled={themes.length === 0}>Put in theme</Button>
              </DropdownMenu.Trigger>
              <DropdownMenu.Portal>
                <DropdownMenu.Content side="top" className="z-50 max-w-[360px] rounded-std border border-line bg-case p-1 shadow-float">
                  {themes.map((t) => (
                    <DropdownMenu.Item
                      key={t.theme.id}
                      onSelect={() => putIntoTheme.mutate(t.theme.id)}
                      className="cursor-pointer rounded-[4px] px-3 py-1.5 font-read data-highlighted:bg-wash"
                    >
                      {claimOf(t.theme)}
                    </DropdownMenu.Item>
                  ))}
                </DropdownMenu.Content>
              </DropdownMenu.Portal>
            </DropdownMenu.Root>
            <Button onClick={() => setTagging(!tagging)}>Tag</Button>
          </div>
        </footer>
      )}
      {making && (
        <MakeInsight
          studyId={studyId}
          observationIds={meant}
          suggestion={of.themeId !== undefined ? title : ''}
          onClose={() => setMaking(false)}
          onMade={(insightId) => void navigate({ to: '/studies/$studyId/show/$insightId', params: { studyId, insightId } })}
        />
      )}
    </aside>
  );
}
