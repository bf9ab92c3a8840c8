import { useDraggable, useDroppable } from '@dnd-kit/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook } from '@/parts/tagLook';
import type { EditedTag } from './edited';
import type { Line } from './outline';

/** What is dragged, and what it is dragged over. */
export interface DraggedTag {
  tagId: number;
}
export type OverTag = { tagId: number; before: boolean } | 'loose';

interface Props {
  label: string;
  lines: readonly Line<EditedTag>[];
  look: (id: number) => TagLook;
  /** The tag that the keys mean. */
  focused: number | null;
  onFocus: (id: number) => void;
  chosen: ReadonlySet<number>;
  onChoose: (id: number) => void;
  /** Cut, to be put elsewhere. */
  cut: ReadonlySet<number>;
  renaming: number | null;
  onRename: (tag: EditedTag, name: string | null) => void;
  onToggle: (id: number) => void;
  onOpen: (id: number) => void;
  onKeyDown: (event: KeyboardEvent) => void;
  /** What is said at the end of a line. */
  figures: (tag: EditedTag) => ReactNode;
  /** Nothing stands under anything here: names alone. */
  flat?: boolean;
  className?: string;
}

const lineHeight = 31;

/** The name of a tag while it is changed in its place. */
function Renaming({ tag, onDone }: { tag: EditedTag; onDone: (name: string | null) => void }) {
  const [name, setName] = useState(tag.name);
  const done = useRef(false);
  const end = (to: string | null) => {
    if (done.current) return;
    done.current = true;
    onDone(to);
  };
  return (
    <input
      autoFocus
      aria-label={`New name of ${tag.name}`}
      value={name}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setName(e.target.value)}
      onBlur={() => end(name)}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') end(name);
        if (e.key === 'Escape') end(null);
      }}
      className="min-w-0 flex-1 rounded-[4px] border border-verdigris bg-case px-1.5"
    />
  );
}

function Row({
  line,
  isFocused,
  isChosen,
  isCut,
  children,
  onPress,
}: {
  line: Line<EditedTag>;
  isFocused: boolean;
  isChosen: boolean;
  isCut: boolean;
  children: ReactNode;
  onPress: (event: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => void;
}) {
  const { id } = line.tag;
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: `tag ${id}`, data: { tagId: id } satisfies DraggedTag });
  const { setNodeRef: setOnto, isOver: isOnto } = useDroppable({ id: `onto ${id}`, data: { over: { tagId: id, before: false } satisfies OverTag } });
  const {
    setNodeRef: setBefore,
    isOver: isBefore,
    active,
  } = useDroppable({ id: `before ${id}`, data: { over: { tagId: id, before: true } satisfies OverTag } });
  return (
    <div
      ref={setNodeRef}
      onPointerDown={listeners?.['onPointerDown'] as React.PointerEventHandler | undefined}
      onClick={onPress}
      className={`relative h-full border-b border-line ${isDragging || isCut ? 'opacity-45' : ''} ${isFocused ? 'bg-wash' : ''} ${isChosen ? 'shadow-[inset_3px_0_0_var(--verdigris)]' : ''}`}
    >
      <span ref={setBefore} aria-hidden className={`absolute inset-x-0 -top-[4px] z-10 h-[8px] ${isBefore && active ? 'border-t-2 border-verdigris' : ''}`} />
      <div
        ref={setOnto}
        className={`flex h-full items-center gap-2 pr-2 ${isOnto && !isBefore && active?.id !== `tag ${id}` ? 'outline-1 outline-verdigris' : ''}`}
      >
        {children}
      </div>
    </div>
  );
}

/** Tags as an outline, one line each; only the lines in view are in the page. The keys mean the line that is selected. */
export function TagOutline({
  label,
  lines,
  look,
  focused,
  onFocus,
  chosen,
  onChoose,
  cut,
  renaming,
  onRename,
  onToggle,
  onOpen,
  onKeyDown,
  figures,
  flat = false,
  className = '',
}: Props) {
  const scroll = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- it tells of every change by rendering anew
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => lineHeight,
    getItemKey: (i) => lines[i]!.tag.id,
    overscan: 8,
    initialRect: { width: 600, height: 600 },
  });
  const at = lines.findIndex((l) => l.tag.id === focused);
  const follow = useRef(virtual);
  useEffect(() => {
    follow.current = virtual;
  });
  useEffect(() => {
    if (at >= 0) follow.current.scrollToIndex(at, { align: 'auto' });
  }, [at, focused]);
  return (
    <div
      ref={scroll}
      role="tree"
      aria-label={label}
      aria-multiselectable
      aria-activedescendant={at >= 0 ? `line-${focused}` : undefined}
      tabIndex={0}
      onKeyDown={onKeyDown}
      className={`overflow-y-auto outline-none focus-visible:shadow-[inset_0_0_0_2px_var(--verdigris)] ${className}`}
    >
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, start, key }) => {
          const line = lines[index]!;
          const { tag, depth } = line;
          const family = depth === 0 && line.children > 0;
          return (
            <div
              key={key}
              id={`line-${tag.id}`}
              role="treeitem"
              aria-level={depth + 1}
              aria-selected={chosen.has(tag.id)}
              {...(line.children > 0 ? { 'aria-expanded': line.open } : {})}
              aria-label={tag.name}
              className="absolute inset-x-0"
              style={{ top: start, height: lineHeight }}
            >
              <Row
                line={line}
                isFocused={tag.id === focused}
                isChosen={chosen.has(tag.id)}
                isCut={cut.has(tag.id)}
                onPress={(event) => {
                  onFocus(tag.id);
                  if (event.ctrlKey || event.metaKey) onChoose(tag.id);
                  if (renaming !== tag.id) scroll.current?.focus({ preventScroll: true });
                }}
              >
                <span className="flex shrink-0 items-center" style={{ paddingLeft: depth * 24 }}>
                  {!flat && (
                    <button
                      type="button"
                      tabIndex={-1}
                      aria-hidden={line.children === 0}
                      aria-label={line.open ? `Close ${tag.name}` : `Open ${tag.name}`}
                      className={`grid size-6 place-items-center text-ink-soft hover:text-ink ${line.children === 0 ? 'invisible' : ''}`}
                      onClick={(e) => {
                        e.stopPropagation();
                        onToggle(tag.id);
                      }}
                    >
                      {line.open ? '−' : '+'}
                    </button>
                  )}
                  <TagDot look={look(tag.id)} />
                </span>
                {renaming === tag.id ? (
                  <Renaming tag={tag} onDone={(name) => onRename(tag, name)} />
                ) : (
                  <span className="flex min-w-0 flex-1 items-baseline gap-2" onDoubleClick={() => onOpen(tag.id)}>
                    <span className={`truncate ${family ? 'font-read text-[16.5px] font-semibold' : ''} ${tag.retired ? 'text-ink-soft line-through' : ''}`}>
                      {tag.name}
                    </span>
                    {tag.retired && <span className="shrink-0 text-[12px] text-ink-soft">retired</span>}
                    {tag.aliases.length > 0 && <span className="truncate text-[12px] text-ink-soft">also: {tag.aliases.join(', ')}</span>}
                    {tag.settled && tag.definition === '' && <span className="shrink-0 text-[12px] text-brass">no definition</span>}
                    {!flat && tag.observations === 1 && line.children === 0 && <span className="shrink-0 text-[12px] text-brass">used once</span>}
                  </span>
                )}
                {figures(tag)}
              </Row>
            </div>
          );
        })}
      </div>
    </div>
  );
}
