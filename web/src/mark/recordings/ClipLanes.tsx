import { memo, useDeferredValue, useMemo } from 'react';
import type { Stretch } from '@/mark/observations/stretch';
import { TagDot } from '@/parts/TagLabel';
import { readTyped } from '@/parts/findTags';
import type { TagLook } from '@/parts/tagLook';
import type { Shown } from '@/mark/observations/writes';
import { lanesOf, momentIn, type View } from './view';

/** A clip, or a mark in the words of the transcript in step at the time in which they are said. */
export interface Clip extends Stretch {
  mark: Shown;
  /** It stands in the words. */
  inWords: boolean;
}

interface Props {
  clips: readonly Clip[];
  view: View;
  width: number;
  look: (id: number) => TagLook;
  focused: number | null;
  onFocus: (id: number, open: boolean) => void;
}

/** There is always room for some lanes, so that the picture does not jump while the wave is zoomed. */
const fewestLanes = 3;
/** The most lanes; what does not fit hangs in the last one without its label until it is focused or there is more room. */
const mostLanes = 5;
const laneHeight = 40;
/** About the width of a letter, and of what stands beside the letters of a label, in pixels. */
const [letter, beside, mostLabel] = [6.6, 30, 190];

const untagged: TagLook = { name: 'no tag yet', colour: 'var(--ink-soft)', draft: true };

/** Clips under the wave. The wave is never kept waiting by what hangs under it. */
export function ClipLanes({ view, ...rest }: Props) {
  return <Lanes view={useDeferredValue(view)} {...rest} />;
}

/** Brackets in lanes, each with its tags. */
const Lanes = memo(function Lanes({ clips, view, width, look, focused, onFocus }: Props) {
  const perPixel = view.span / width;
  const named = useMemo(
    () =>
      new Map(
        clips.map(({ mark }) => {
          const tags = [
            ...mark.tagIds.map((id) => look(id)),
            ...(mark.newTags ?? []).map((name) => ({ name: readTyped(name).name, colour: 'var(--brass)', draft: true })),
          ];
          return [mark.id, tags.length > 0 ? tags : [untagged]] as const;
        }),
      ),
    [clips, look],
  );
  const wide = (clip: Clip) => Math.min(mostLabel, beside + letter * named.get(clip.mark.id)!.reduce((n, t) => n + t.name.length + 2, 0)) * perPixel;
  const inView = clips.filter((c) => c.end > view.from - mostLabel * perPixel && c.start < view.from + view.span);
  // The label of a clip that began before what is drawn stands at its edge.
  const all = lanesOf(inView, (clip) => Math.max(0, view.from - clip.start) + wide(clip), mostLanes);
  const placed = all.filter((p) => p.lane < mostLanes || p.clip.mark.id === focused);
  const folded = all.filter((p) => !placed.includes(p));
  const lanes = Math.min(
    mostLanes,
    all.reduce((most, p) => Math.max(most, p.lane + 1), fewestLanes),
  );
  /** Brackets without a label, by their colours: one shape for all of a colour, filled, because a browser lays strokes out ten times slower. */
  const lines = new Map<string, string>();
  for (const { clip } of folded) {
    const colour = named.get(clip.mark.id)![0]!.colour;
    const [left, right] = [(clip.start - view.from) / perPixel, Math.max((clip.end - view.from) / perPixel, (clip.start - view.from) / perPixel + 4)];
    lines.set(colour, `${lines.get(colour) ?? ''}M${left.toFixed(1)} 0v8H${right.toFixed(1)}v-8h-2v6H${(left + 2).toFixed(1)}v-6z`);
  }
  return (
    <div className="relative overflow-hidden" style={{ height: lanes * laneHeight + 6 }} role="list" aria-label="Clips">
      {placed.map(({ clip, lane }) => {
        const tags = named.get(clip.mark.id)!;
        const isFocused = clip.mark.id === focused;
        const [left, across] = [(clip.start - view.from) / perPixel, Math.max(3, (clip.end - clip.start) / perPixel)];
        const shift = Math.max(0, left);
        // Moved by a transform, so that nothing is laid out anew while the wave scrolls.
        return (
          <div
            key={clip.mark.id}
            role="listitem"
            className={`absolute top-0 left-0 flex ${isFocused ? 'z-10' : ''}`}
            style={{ transform: `translate(${shift}px, ${Math.min(lane, mostLanes - 1) * laneHeight + 6}px)`, maxWidth: mostLabel }}
          >
            <span
              aria-hidden
              className="absolute h-2"
              style={{
                left: left - shift,
                width: across,
                borderColor: tags[0]!.colour,
                borderStyle: clip.inWords ? 'dotted' : 'solid',
                borderWidth: isFocused ? '0 3px 3px 3px' : '0 2px 2px 2px',
              }}
            />
            <button
              type="button"
              id={`label-${clip.mark.id}`}
              data-mark={clip.mark.id}
              aria-label={`${tags.map((t) => t.name).join(', ')}, ${momentIn(clip.start)} to ${momentIn(clip.end)}${clip.inWords ? ', in the words' : ''}`}
              aria-current={isFocused}
              title={clip.mark.note || tags.map((t) => t.name).join(', ')}
              className={`mt-2 inline-flex min-h-6 min-w-0 items-center gap-1.5 truncate px-1 text-[12.5px] hover:underline ${isFocused ? 'bg-case font-semibold' : ''}`}
              onClick={() => onFocus(clip.mark.id, isFocused)}
              onDoubleClick={() => onFocus(clip.mark.id, true)}
            >
              {tags.map((t, i) => (
                <span key={`${t.name} ${i}`} className="inline-flex items-center gap-1.5 truncate">
                  <TagDot look={t} />
                  {t.name}
                </span>
              ))}
            </button>
          </div>
        );
      })}
      {folded.length > 0 && (
        <>
          <svg aria-hidden className="absolute left-0 overflow-visible" width={width} height={8} style={{ top: (mostLanes - 1) * laneHeight + 6 }}>
            {[...lines].map(([colour, path]) => (
              <path key={colour} d={path} fill={colour} />
            ))}
          </svg>
          <p className="absolute right-0 bottom-0 bg-paper px-1 text-[12px] text-ink-soft">{folded.length} more without room for a label; zoom in</p>
        </>
      )}
    </div>
  );
});
