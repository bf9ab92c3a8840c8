import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { useState, type ReactNode } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { inTreeOrder, isBundle } from '@/parts/bundles';
import { ActionButton } from '@/parts/actions/ActionButton';
import { usePageActions } from '@/parts/actions/registry';
import type { Action } from '@/parts/actions/actions';
import { ofTag, type TagActs } from './actions';
import { PickByTitle } from '@/parts/PickByTitle';
import { useTagLook } from '@/parts/useTagLook';
import { TrailButton } from '@/trail/Trail';
import { BundlePick } from './bundles/BundlePick';
import { MergeDialog } from './MergeDialog';
import { ProposalDialog } from './proposals/ProposalDialog';
import { RetireDialog } from './RetireDialog';
import { TagForm } from './TagForm';

type Tag = Schemas['Tag'];

interface Given {
  /** The tag or bundle that is acted on; undefined for none. */
  tag: Tag | undefined;
  /** Those that are chosen besides; of them all some acts are done at once. */
  chosen?: readonly Tag[];
  tags: readonly Tag[];
  studyId: number | undefined;
  /** Where it is looked at: a page proposals no way to itself. */
  at?: 'page' | 'across';
  /** What was done took the choice along. */
  onDone?: () => void;
}

type Doing = null | 'define' | 'merge' | { merge: readonly number[] } | 'bundle' | 'retire' | 'proposal' | { ofOne: 'split' | 'more' };

/** All that can be done with a tag or a bundle, wherever it is looked at: no act exists here and not there. Its keys are heard on the page. */
export function useTagActions({ tag, chosen = [], tags, studyId, at, onDone = () => undefined }: Given) {
  const navigate = useNavigate();
  const look = useTagLook(tags);
  const [doing, setDoing] = useState<Doing>(null);
  const proposals = useQuery(queries.tagProposals()).data;
  const waits = proposals?.some((o) => o.tagId === tag?.id && o.outcome === null) ?? true;
  const comeBack = useWrite((id: number) => ask(api.PUT('/api/tags/{id}/retired', { params: { path: { id } }, body: { retired: false } })));
  const meant = chosen.length > 0 ? chosen : tag ? [tag] : [];
  const [first] = meant;
  const close = () => setDoing(null);
  const split = (tagId: number) => studyId !== undefined && void navigate({ to: '/studies/$studyId/sort/split/$tagId', params: { studyId, tagId } });
  const more = (tagId: number) => studyId !== undefined && void navigate({ to: '/studies/$studyId/mark/more/$tagId', params: { studyId, tagId } });
  /** What is done with the marks of one tag asks of a bundle which of its tags is meant. */
  const ofOne = (what: 'split' | 'more') => {
    if (!tag) return;
    if (isBundle(tag)) setDoing({ ofOne: what });
    else if (what === 'split') split(tag.id);
    else more(tag.id);
  };
  const merge = (ids: readonly number[] = []) => setDoing(ids.length > 1 ? { merge: ids } : meant.length > 1 ? { merge: meant.map((t) => t.id) } : 'merge');
  const inStudy = studyId !== undefined;
  const acts: TagActs | null = tag
    ? {
        isBundle: isBundle(tag),
        retired: tag.retired,
        define: () => setDoing('define'),
        merge: () => merge(),
        split: inStudy ? () => ofOne('split') : null,
        more: inStudy ? () => ofOne('more') : null,
        bundle: () => setDoing('bundle'),
        retire: () => setDoing('retire'),
        comeBack: () => comeBack.mutate(tag.id),
        page: inStudy && at !== 'page' ? () => void navigate({ to: '/studies/$studyId/tags/$tagId', params: { studyId, tagId: tag.id } }) : null,
        inAllStudies: at === 'across' ? null : () => void navigate({ to: '/tags/$tagId', params: { tagId: tag.id } }),
        propose: tag.studyId === null || waits || tag.retired ? null : () => setDoing('proposal'),
      }
    : null;
  usePageActions(ofTag, acts);
  const done = () => {
    close();
    onDone();
  };
  const dialogs: ReactNode = (
    <>
      {doing === 'define' && tag && <TagForm key={tag.id} tag={tag} tags={tags} onClose={close} />}
      {doing === 'retire' && tag && <RetireDialog tag={tag} onClose={close} />}
      {doing === 'proposal' && tag && <ProposalDialog tag={tag} onClose={close} />}
      {doing === 'bundle' && meant.length > 0 && <BundlePick meant={meant} tags={tags} studyId={studyId} onDone={onDone} onClose={close} />}
      {doing === 'merge' && first && (
        <PickByTitle
          title={`Merge “${first.name}” into`}
          label={isBundle(first) ? 'Bundle' : 'Tag'}
          items={tags
            .filter((t) => t.id !== first.id && isBundle(t) === isBundle(first))
            .map((t) => ({ id: String(t.id), title: t.name, pick: () => setDoing({ merge: [t.id, first.id] }) }))}
          none="None is called like that."
          onClose={() => setDoing((now) => (now === 'merge' ? null : now))}
        />
      )}
      {doing !== null && typeof doing === 'object' && 'merge' in doing && (
        <MergeDialog tags={doing.merge.flatMap((id) => tags.find((t) => t.id === id) ?? [])} look={look} onClose={done} />
      )}
      {doing !== null && typeof doing === 'object' && 'ofOne' in doing && tag && (
        <PickByTitle
          title={`${doing.ofOne === 'split' ? 'Split' : 'Find more of'} which tag of “${tag.name}”?`}
          label="Tag"
          items={inTreeOrder(tags, tag.members ?? []).map((t) => ({
            id: String(t.id),
            title: t.name,
            pick: () => (doing.ofOne === 'split' ? split(t.id) : more(t.id)),
          }))}
          none="It holds no tag that is called like that."
          onClose={close}
        />
      )}
    </>
  );
  return { acts, dialogs, merge, meant, define: () => setDoing('define') };
}

/** The acts as buttons; the first is the one of the view. */
export function TagActions({ acts, tag }: { acts: TagActs; tag: Tag }) {
  return (
    <div role="group" aria-label={`What can be done with ${tag.name}`} className="flex flex-wrap gap-2">
      {Object.values<Action<TagActs>>(ofTag.actions)
        .filter((action) => !action.when || action.when(acts))
        .map((action, i) => (
          <ActionButton key={action.name} action={action} on={acts} look={i === 0 ? 'main' : 'plain'} />
        ))}
      <TrailButton of={{ thing: 'tag', id: tag.id, name: tag.name }} />
    </div>
  );
}
