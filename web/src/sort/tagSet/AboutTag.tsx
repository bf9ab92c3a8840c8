import type { Schemas } from '@/api/client';
import { isBundle } from '@/parts/bundles';
import { TagMeaning } from '@/parts/TagMeaning';
import { MembersRun } from './bundles/Members';
import type { TagActs } from './actions';
import { TagActions } from './useTagActions';

interface Props {
  tag: Schemas['Tag'];
  tags: readonly Schemas['Tag'][];
  acts: TagActs;
}

/** What a tag or bundle is, what a bundle holds, and what can be done with it, at the head of its pages. */
export function AboutTag({ tag, tags, acts }: Props) {
  return (
    <>
      <TagMeaning tag={tag} />
      {isBundle(tag) && (
        <p className="mt-1 text-[14px] text-ink-soft">
          <MembersRun bundle={tag} tags={tags} />
        </p>
      )}
      <div className="mt-3">
        <TagActions acts={acts} tag={tag} />
      </div>
    </>
  );
}
