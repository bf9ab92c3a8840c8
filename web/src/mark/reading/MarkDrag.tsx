import { claimOf } from '@/shared/claim';
import { DndContext, DragOverlay, PointerSensor, pointerWithin, useDroppable, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { queries } from '@/api/queries';
import { usePlaceTags } from '@/shared/usePlaceTags';
import type { TagUse } from '@/parts/tagLook';
import { aimNowhere, readerAt, type Dragged, type Over } from './dragging';
import { dragsFrom } from '@/parts/dragsFrom';

const mostShown = 6;

function Slot({ id, data, words }: { id: string; data: Over; words: string }) {
  const { setNodeRef, isOver } = useDroppable({ id, data });
  return (
    <li
      ref={setNodeRef}
      className={`rounded-std border px-3 py-1.5 font-read text-[14px] leading-snug ${isOver ? 'border-verdigris bg-wash' : 'border-line bg-paper'}`}
    >
      <span className="line-clamp-2">{words}</span>
    </li>
  );
}

/** Where words go while they are dragged: the themes and insights of the study. */
function Tray({ studyId }: { studyId: number }) {
  const themes = useQuery(queries.sorting(studyId)).data?.themes ?? [];
  const insights = useQuery(queries.insights(studyId)).data ?? [];
  if (themes.length + insights.length === 0) return null;
  return (
    <div
      aria-hidden
      className="fixed bottom-4 left-[204px] z-30 flex w-[calc(100vw-480px)] gap-6 rounded-std border border-line bg-case px-4 py-3 shadow-float"
    >
      {[
        { head: 'Themes', slots: themes.slice(0, mostShown).map((t) => ({ id: `theme ${t.theme.id}`, data: { theme: t.theme.id }, words: claimOf(t.theme) })) },
        {
          head: 'Insights',
          slots: insights.slice(0, mostShown).map((i) => ({ id: `insight ${i.insight.id}`, data: { insight: i.insight.id }, words: i.insight.headline })),
        },
      ].map(
        ({ head, slots }) =>
          slots.length > 0 && (
            <div key={head} className="min-w-0 flex-1">
              <p className="mb-1 text-[12px] font-semibold text-ink-soft">{head}</p>
              <ul className="grid grid-cols-2 gap-1.5">
                {slots.map((s) => (
                  <Slot key={s.id} {...s} />
                ))}
              </ul>
            </div>
          ),
      )}
    </div>
  );
}

interface Props {
  studyId: number;
  tags: readonly TagUse[];
  children: ReactNode;
}

/** Dragging in Mark: tags onto words and onto each other, words onto tags, themes and insights. Each has a key as well. */
export function MarkDrag({ studyId, tags, children }: Props) {
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, dragsFrom));
  const place = usePlaceTags();
  // Where the mouse is: what the library tells has in it by how much lists were scrolled meanwhile.
  const at = useRef({ x: 0, y: 0 });
  useEffect(() => {
    const follow = (event: PointerEvent) => (at.current = { x: event.clientX, y: event.clientY });
    window.addEventListener('pointermove', follow, { capture: true });
    return () => window.removeEventListener('pointermove', follow, { capture: true });
  }, []);
  const drop = (event: DragEndEvent) => {
    // A quick hand drops before what it took has been drawn.
    const what = event.active.data.current as Dragged | undefined;
    setDragged(null);
    aimNowhere();
    if (!what) return;
    const over = event.over?.data.current as Over | undefined;
    if (what.drags === 'words') {
      if (!over) return;
      if ('tag' in over) what.onto.tag(over.tag);
      else if ('theme' in over) what.onto.theme(over.theme);
      else if ('insight' in over) what.onto.insight(over.insight);
      else what.onto.newTag();
      return;
    }
    const reader = readerAt(at.current.x, at.current.y);
    if (reader) return reader.drop(at.current, what.tagId);
    if (over && 'tag' in over && over.tag !== what.tagId) {
      const onto = tags.find((t) => t.tag.id === over.tag)!.tag;
      place.mutate({
        ids: [what.tagId],
        to: over.before ? { parentId: onto.parentId, beforeTagId: onto.id } : { parentId: onto.id, beforeTagId: null },
      });
    } else if (over && 'shelf' in over && tags.find((t) => t.tag.id === what.tagId)?.tag.parentId !== null)
      place.mutate({ ids: [what.tagId], to: { parentId: null, beforeTagId: null } });
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      autoScroll={false}
      onDragStart={(event) => setDragged(event.active.data.current as Dragged)}
      onDragMove={(event) => {
        if ((event.active.data.current as Dragged | undefined)?.drags !== 'tag') return;
        aimNowhere();
        readerAt(at.current.x, at.current.y)?.aim(at.current);
      }}
      onDragEnd={drop}
      onDragCancel={() => {
        setDragged(null);
        aimNowhere();
      }}
    >
      {children}
      {dragged?.drags === 'words' && <Tray studyId={studyId} />}
      <DragOverlay dropAnimation={null} style={{ pointerEvents: 'none' }}>
        {dragged && (
          <span className="mt-4 ml-4 inline-block max-w-[260px] truncate rounded-std border border-line bg-case px-2.5 py-1 text-[13px] shadow-float">
            {dragged.name}
          </span>
        )}
      </DragOverlay>
    </DndContext>
  );
}
