import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useMemo, useRef, useState, type ReactNode } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { usePlaceTags } from '@/shared/usePlaceTags';
import { Empty, Waiting } from '@/parts/Empty';
import { TagDot } from '@/parts/TagLabel';
import { ActionButton } from '@/parts/actions/ActionButton';
import { ActionHints } from '@/parts/actions/ActionHints';
import { usePageActions } from '@/parts/actions/registry';
import { lookAlikes as lookAlikeActions, type LookAlikeActs } from './actions';
import { useTagLook } from '@/parts/useTagLook';
import { count } from '@/parts/words';
import { MergeDialog } from './MergeDialog';

const why: Record<Schemas['LookAlikeReason'], string> = {
  sameStems: 'the same words, in other forms or another order',
  nearSpelling: 'spelled nearly alike',
  alias: 'another name of one is a name of the other',
  overlap: 'mostly on the same observations',
};

/** Pairs of tags that may mean the same, with why and with words of both: merged, put under each other, or kept apart for good. */
export function LookAlikesPage() {
  return (
    <main className="h-full border-t border-line">
      <LookAlikes />
    </main>
  );
}

/** A study's view of them: shared tags and its own. */
export function StudyLookAlikesPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId/sort/tags/look-alikes' });
  return <LookAlikes studyId={studyId} />;
}

function LookAlikes({ studyId }: { studyId?: number }) {
  const { data: all, error } = useQuery(queries.lookAlikes());
  const tags = useQuery(queries.tagSet()).data;
  const lookAlikes = useMemo(() => {
    const isHere = (id: number) => {
      const of = tags?.find((t) => t.id === id)?.studyId;
      return studyId === undefined || of === null || of === studyId;
    };
    return all?.filter((pair) => isHere(pair.one.tagId) && isHere(pair.other.tagId));
  }, [all, tags, studyId]);
  const look = useTagLook(tags);
  const [merging, setMerging] = useState<Schemas['LookAlikesShown'] | null>(null);
  const [at, setAt] = useState(0);
  const list = useRef<HTMLUListElement>(null);
  const apart = useWrite((pair: Schemas['LookAlikesShown']) =>
    ask(api.POST('/api/tags/{id}/apart', { params: { path: { id: pair.one.tagId } }, body: { otherTagId: pair.other.tagId } })),
  );
  const place = usePlaceTags();
  const nest = (pair: Schemas['LookAlikesShown']) => place.mutate({ ids: [pair.other.tagId], to: { parentId: pair.one.tagId, beforeTagId: null } });
  const here = Math.min(at, Math.max(0, (lookAlikes?.length ?? 0) - 1));
  const current = lookAlikes?.[here];
  const move = (to: number) => {
    setAt(Math.max(0, Math.min((lookAlikes?.length ?? 1) - 1, to)));
    list.current?.children[to]?.scrollIntoView({ block: 'nearest' });
  };
  const acts: LookAlikeActs = {
    step: (by) => move(here + by),
    merge: current ? () => setMerging(current) : null,
    nest: current ? () => nest(current) : null,
    keepApart: current ? () => apart.mutate(current) : null,
  };
  usePageActions(lookAlikeActions, acts);
  if (!lookAlikes || !tags) return <Waiting problem={error} />;
  const tag = (id: number) => tags.find((t) => t.id === id);
  const side = (lookAlike: Schemas['LookAlike']) => (
    <div className="min-w-0">
      <p className="flex items-center gap-2 font-medium">
        <TagDot look={look(lookAlike.tagId)} />
        <TagLink studyId={studyId} tagId={lookAlike.tagId}>
          {tag(lookAlike.tagId)?.name}
        </TagLink>
        <span className="text-[12.5px] font-normal text-ink-soft">{count(lookAlike.observations, 'observation')}</span>
      </p>
      <p className="text-[12.5px] text-ink-soft">{tag(lookAlike.tagId)?.definition || 'No definition yet.'}</p>
      {lookAlike.quote !== null && <p className="mt-1 font-read text-[15px] leading-[22px] wrap-anywhere">{lookAlike.quote}</p>}
    </div>
  );
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[940px] px-6 py-8">
        <div className="flex items-baseline gap-4">
          <h1 className="font-read text-3xl font-semibold">Look-alikes</h1>
          <span className="text-ink-soft">{lookAlikes.length > 0 && `${count(lookAlikes.length, 'pair')} that may mean the same`}</span>
          <TagLink studyId={studyId} className="ml-auto text-sky">
            Tag set
          </TagLink>
        </div>
        {lookAlikes.length === 0 ? (
          <Empty title="No look-alikes" sample="“told by neighbour” and “by neighbours told”: the same words, in other forms or another order">
            Tags with nearly the same name, or on nearly the same observations, are listed here.
          </Empty>
        ) : (
          <p className="mt-1 mb-3 text-[12.5px] text-ink-soft">
            <ActionHints of={Object.values(lookAlikeActions.actions)} />
          </p>
        )}
        <ul ref={list} aria-label="Pairs of tags">
          {lookAlikes.map((pair, i) => (
            <li
              key={`${pair.one.tagId} ${pair.other.tagId}`}
              aria-current={i === here}
              onClick={() => setAt(i)}
              className={`border-b border-line py-3.5 pr-2 pl-4 ${i === here ? 'border-l-2 border-l-verdigris bg-case' : 'border-l-2 border-l-transparent'}`}
            >
              <div className="grid grid-cols-2 gap-8">
                {side(pair.one)}
                {side(pair.other)}
              </div>
              <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-[12.5px] text-ink-soft">
                <span>
                  {pair.reasons.map((r) => why[r]).join('; ')}
                  {pair.both > 0 && `; both on ${count(pair.both, 'observation')}`}
                </span>
                {i === here && (
                  <span className="ml-auto flex gap-2">
                    <ActionButton action={lookAlikeActions.actions.merge} on={acts} look="main" />
                    <ActionButton action={lookAlikeActions.actions.nest} on={acts} />
                    <ActionButton action={lookAlikeActions.actions.keepApart} on={acts} look="quiet" />
                  </span>
                )}
              </div>
            </li>
          ))}
        </ul>
      </div>
      {merging && tag(merging.one.tagId) && tag(merging.other.tagId) && (
        <MergeDialog tags={[tag(merging.one.tagId)!, tag(merging.other.tagId)!]} look={look} onClose={() => setMerging(null)} />
      )}
    </div>
  );
}

interface TagLinkProps {
  studyId: number | undefined;
  tagId?: number;
  className?: string;
  children: ReactNode;
}

/** To the tag set from where one is: that of the study, or the shared one. */
function TagLink({ studyId, tagId, className = '', children }: TagLinkProps) {
  const search = tagId === undefined ? {} : { tag: tagId };
  return studyId === undefined ? (
    <Link to="/tags" search={search} className={`hover:underline ${className}`}>
      {children}
    </Link>
  ) : (
    <Link to="/studies/$studyId/sort/tags" params={{ studyId }} search={search} className={`hover:underline ${className}`}>
      {children}
    </Link>
  );
}
