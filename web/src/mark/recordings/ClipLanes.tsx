import { Fragment, memo, useDeferredValue, useMemo } from 'react';
import type { TimeRange } from '@/mark/observations/place';
import { TagDot } from '@/parts/TagLabel';
import { readTyped } from '@/parts/findTags';
import type { TagLook } from '@/parts/tagLook';
import type { ShownClip, ShownWords } from '@/mark/observations/writes';
import { lanesOf, momentIn, type View } from './view';

/** A clip, or a mark in the words of the transcript in step at the time in which they are said. */
export type Clip = TimeRange & ({ mark: ShownClip; inWords: false } | { mark: ShownWords; inWords: true });

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

/** A bracket from the left to the right, open at the top; dotted where its mark stands in words. In pixels. */
function bracket(left: number, right: number, top: number, thick: number, dotted: boolean): string {
  const deep = 8;
  if (!dotted) return `M${left.toFixed(1)} ${top}v${deep}H${right.toFixed(1)}v${-deep}h${-thick}v${deep - thick}H${(left + thick).toFixed(1)}v${thick - deep}z`;
  const dot = (x: number, y: number) => `M${x.toFixed(1)} ${y}h${thick}v${thick}h${-thick}z`;
  const sides = [left, right - thick].flatMap((x) => [dot(x, top), dot(x, top + deep / 2 - 1)]);
  const dots = Array.from({ length: Math.max(1, Math.ceil((right - left) / (2 * thick))) }, (_, i) => dot(left + i * 2 * thick, top + deep - thick));
  return sides.concat(dots).join('');
}

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
  const inView = clips.filter((c) => c.endMs > view.from - mostLabel * perPixel && c.beginMs < view.from + view.span);
  // The label of a clip that began before what is drawn stands at its edge.
  const all = lanesOf(inView, (clip) => Math.max(0, view.from - clip.beginMs) + wide(clip), mostLanes);
  const placed = all.filter((p) => p.lane < mostLanes || p.clip.mark.id === focused);
  const lanes = Math.min(
    mostLanes,
    all.reduce((most, p) => Math.max(most, p.lane + 1), fewestLanes),
  );
  const topOf = (lane: number) => Math.min(lane, mostLanes - 1) * laneHeight + 6;
  /** Brackets by their colours: one shape for all of a colour, filled, because a browser lays strokes out ten times slower. */
  const lines = new Map<string, string>();
  for (const { clip, lane } of all) {
    const colour = named.get(clip.mark.id)![0]!.colour;
    const from = Math.max(-20, (clip.beginMs - view.from) / perPixel);
    const to = Math.min(width + 20, Math.max((clip.endMs - view.from) / perPixel, from + 4));
    if (to > 0) lines.set(colour, (lines.get(colour) ?? '') + bracket(from, to, topOf(lane), clip.mark.id === focused ? 3 : 2, clip.inWords));
  }
  return (
    <div className="relative overflow-hidden" style={{ height: lanes * laneHeight + 6 }} role="group" aria-label="Clips">
      <svg aria-hidden className="absolute inset-0" width={width} height={lanes * laneHeight + 6}>
        {[...lines].map(([colour, path]) => (
          <path key={colour} d={path} fill={colour} />
        ))}
      </svg>
      {placed.map(({ clip, lane }) => {
        const tags = named.get(clip.mark.id)!;
        const isFocused = clip.mark.id === focused;
        // Moved by a transform, so that nothing is laid out anew while the wave scrolls; few elements, because each zoom brings new labels.
        return (
          <button
            key={clip.mark.id}
            type="button"
            id={`label-${clip.mark.id}`}
            data-mark={clip.mark.id}
            aria-label={`${tags.map((t) => t.name).join(', ')}, ${momentIn(clip.beginMs)} to ${momentIn(clip.endMs)}${clip.inWords ? ', in the words' : ''}`}
            aria-current={isFocused}
            title={clip.mark.note || tags.map((t) => t.name).join(', ')}
            className={`absolute top-2 left-0 block h-6 truncate px-1 text-left text-[12.5px] leading-6 hover:underline ${isFocused ? 'z-10 bg-case font-semibold' : ''}`}
            style={{ transform: `translate(${Math.max(0, (clip.beginMs - view.from) / perPixel)}px, ${topOf(lane)}px)`, maxWidth: mostLabel }}
            onClick={() => onFocus(clip.mark.id, isFocused)}
            onDoubleClick={() => onFocus(clip.mark.id, true)}
          >
            {tags.map((t, i) => (
              <Fragment key={`${t.name} ${i}`}>
                <TagDot look={t} />
                {`\u2002${t.name}\u2002`}
              </Fragment>
            ))}
          </button>
        );
      })}
      {all.length > placed.length && (
        <p className="absolute right-0 bottom-0 bg-paper px-1 text-[12px] text-ink-soft">{all.length - placed.length} more without room for a label; zoom in</p>
      )}
    </div>
  );
});
