import { TagDot } from '@/parts/TagLabel';
import { readTyped } from '@/parts/findTags';
import type { TagLook } from '@/parts/tagLook';
import type { Box } from '@/mark/observations/place';
import type { ShownRegion } from '@/mark/observations/writes';
import { corners, cornerAt, pointsOf, whole } from './box';

interface Props {
  mark: ShownRegion;
  box: Box;
  look: (id: number) => TagLook;
  focused: boolean;
  onFocus: (open: boolean) => void;
}

const untagged: TagLook = { name: 'no tag yet', colour: 'var(--ink-soft)', draft: true };
const percent = (n: number) => `${(n / whole) * 100}%`;
export const placeOf = (box: Box) => ({ left: percent(box.x), top: percent(box.y), width: percent(box.width), height: percent(box.height) });

/** A part of the picture: a thin frame with its tags on the frame's edge; the rest of the picture is dimmed a little while it is focused. */
export function Region({ mark, box, look, focused, onFocus }: Props) {
  const tags = [
    ...mark.tagIds.map((id) => look(id)),
    ...(mark.newTags ?? []).map((name) => ({ name: readTyped(name).name, colour: 'var(--brass)', draft: true })),
  ];
  const shown = tags.length > 0 ? tags : [untagged];
  const names = shown.map((t) => t.name).join(', ');
  return (
    <div
      data-region={mark.id}
      className={`absolute ${focused ? 'z-10 cursor-move' : ''}`}
      style={{
        ...placeOf(box),
        border: box.outline === undefined ? `${focused ? 2 : 1.5}px solid ${shown[0]!.colour}` : focused ? '1px dotted var(--line)' : undefined,
        boxShadow: focused ? '0 0 0 9999px color-mix(in srgb, var(--paper) 45%, transparent)' : undefined,
      }}
    >
      {box.outline !== undefined && <Drawn box={box} colour={shown[0]!.colour} strong={focused} />}
      <button
        type="button"
        id={`label-${mark.id}`}
        data-mark={mark.id}
        aria-current={focused}
        aria-label={`Region: ${names}`}
        title={mark.note || names}
        onClick={() => onFocus(focused)}
        onDoubleClick={() => onFocus(true)}
        className={`absolute left-[-2px] inline-flex min-h-6 max-w-[240px] items-center gap-1.5 truncate rounded-[3px] bg-case px-1.5 text-[12.5px] shadow-sm hover:underline ${box.y < 500 ? 'top-0' : 'bottom-full'} ${focused ? 'font-semibold' : ''}`}
      >
        {shown.map((t, i) => (
          <span key={`${t.name} ${i}`} className="inline-flex items-center gap-1.5 truncate">
            <TagDot look={t} />
            {t.name}
          </span>
        ))}
      </button>
      {focused &&
        corners.map((corner) => {
          const at = cornerAt({ x: 0, y: 0, width: whole, height: whole }, corner);
          return (
            <span
              key={corner}
              aria-hidden
              data-corner={corner}
              className={`absolute -mt-2 -ml-2 grid size-4 place-items-center ${corner === 'nw' || corner === 'se' ? 'cursor-nwse-resize' : 'cursor-nesw-resize'}`}
              style={{ left: percent(at.x), top: percent(at.y) }}
            >
              <span className="size-2 border-2 border-verdigris bg-case" />
            </span>
          );
        })}
    </div>
  );
}

/** A free outline within its box. */
export function Drawn({ box, colour, strong }: { box: Box; colour: string; strong: boolean }) {
  return (
    <svg
      aria-hidden
      className="pointer-events-none absolute inset-0 h-full w-full overflow-visible"
      viewBox={`0 0 ${box.width} ${box.height}`}
      preserveAspectRatio="none"
    >
      <polygon
        points={pointsOf(box.outline ?? '')
          .map((p) => `${p.x - box.x},${p.y - box.y}`)
          .join(' ')}
        fill="none"
        stroke={colour}
        strokeWidth={strong ? 2.5 : 1.5}
        vectorEffect="non-scaling-stroke"
        strokeLinejoin="round"
      />
    </svg>
  );
}
