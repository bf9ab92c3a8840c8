import { useRef, type KeyboardEvent, type ReactNode } from 'react';
import { Empty } from '@/parts/Empty';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook } from '@/parts/tagLook';
import { Key } from '@/parts/Button';
import type { EditedTag } from '../edited';
import { MembersRun } from './Members';

interface Props {
  bundles: readonly EditedTag[];
  tags: readonly EditedTag[];
  look: (id: number) => TagLook;
  focused: number | null;
  onFocus: (id: number) => void;
  onOpen: () => void;
  figures: (tag: EditedTag) => ReactNode;
  /** Whether some are there that do not fit what is looked for. */
  some: boolean;
}

/** The bundles one below the other: a ribbon, the name, how broad it is, and its tags as a run of words. */
export function BundleList({ bundles, tags, look, focused, onFocus, onOpen, figures, some }: Props) {
  const list = useRef<HTMLUListElement>(null);
  if (bundles.length === 0)
    return some ? (
      <p className="border-t border-line py-4 text-ink-soft">No bundle is called like that, or holds a tag that is.</p>
    ) : (
      <Empty title="No bundles yet" sample="“For the board: too late to act, learnt on the quay, queue”">
        A bundle is a pick of tags for a purpose: a report, or what to revisit. Choose tags in the tree and press <Key>b</Key>. Leaving one never touches a tag.
      </Empty>
    );
  const keys = (event: KeyboardEvent) => {
    const at = bundles.findIndex((b) => b.id === focused);
    const to =
      event.key === 'ArrowDown' ? at + 1 : event.key === 'ArrowUp' ? at - 1 : event.key === 'Home' ? 0 : event.key === 'End' ? bundles.length - 1 : null;
    if (event.key === 'Enter' && at >= 0) onOpen();
    else if (to === null || event.altKey || event.ctrlKey || event.metaKey) return;
    else {
      const next = bundles[Math.max(0, Math.min(bundles.length - 1, to))]!;
      onFocus(next.id);
      list.current?.querySelector(`#bundle-${next.id}`)?.scrollIntoView({ block: 'nearest' });
    }
    event.preventDefault();
  };
  return (
    <ul
      ref={list}
      role="listbox"
      aria-label="Bundles"
      tabIndex={0}
      aria-activedescendant={focused === null ? undefined : `bundle-${focused}`}
      onKeyDown={keys}
      className="min-h-0 flex-1 overflow-y-auto border-t border-line outline-none focus-visible:shadow-[inset_0_0_0_2px_var(--verdigris)]"
    >
      {bundles.map((bundle) => (
        <li
          key={bundle.id}
          id={`bundle-${bundle.id}`}
          role="option"
          aria-selected={bundle.id === focused}
          aria-label={bundle.name}
          className={`cursor-pointer border-b border-line px-1 py-2.5 ${bundle.id === focused ? 'bg-wash' : ''}`}
          onClick={() => onFocus(bundle.id)}
          onDoubleClick={onOpen}
        >
          <p className="flex items-center gap-2.5">
            <TagDot look={look(bundle.id)} />
            <span className={`min-w-0 flex-1 truncate font-read text-[16.5px] font-semibold ${bundle.retired ? 'text-ink-soft line-through' : ''}`}>
              {bundle.name}
            </span>
            {figures(bundle)}
          </p>
          <p className="mt-0.5 pl-[22px] text-[13px] text-ink-soft">
            <MembersRun bundle={bundle} tags={tags} />
          </p>
        </li>
      ))}
    </ul>
  );
}
