import type { TimeRange } from '@/mark/observations/place';

/** The part of a recording that is drawn: from a moment on, so many milliseconds wide. */
export interface View {
  from: number;
  span: number;
}

/** The narrowest part that is drawn, in milliseconds. */
const narrowest = 1000;

/** A part moved and narrowed until it lies in the recording. */
export function within(view: View, length: number): View {
  const span = Math.min(Math.max(narrowest, view.span), Math.max(narrowest, length));
  return { from: Math.max(0, Math.min(view.from, length - span)), span };
}

/** Wider (over 1) or narrower (under 1), with one moment staying where it is. */
export const zoomed = (view: View, times: number, at: number, length: number): View =>
  within(
    {
      from: at - ((at - view.from) * Math.min(length, Math.max(narrowest, view.span * times))) / view.span,
      span: Math.min(length, Math.max(narrowest, view.span * times)),
    },
    length,
  );

/** A range of time with some room on both sides. */
export const fitting = ({ beginMs, endMs }: TimeRange, length: number): View =>
  within({ from: beginMs - (endMs - beginMs) * 0.15, span: (endMs - beginMs) * 1.3 }, length);

/** The part that follows when the playing position runs out of it: the position is a tenth into it. */
export const following = (view: View, at: number, length: number): View =>
  at >= view.from && at <= view.from + view.span * 0.95 ? view : within({ from: at - view.span / 10, span: view.span }, length);

/** Steps of the ruler, in milliseconds. */
const steps = [100, 200, 500, 1000, 2000, 5000, 10_000, 15_000, 30_000, 60_000, 120_000, 300_000, 600_000, 1_200_000, 3_600_000];

/** The moments that the ruler names, at least so many pixels apart. */
export function ruled(view: View, width: number, apart = 72): { step: number; at: number[] } {
  const step = steps.find((s) => (s / view.span) * width >= apart) ?? steps.at(-1)!;
  const first = Math.ceil(view.from / step) * step;
  const at: number[] = [];
  for (let ms = first; ms <= view.from + view.span; ms += step) at.push(ms);
  return { step, at };
}

/** The coarsest resolution that still has a peak for each pixel. */
export const resolutionFor = (view: View, width: number): 100 | 10 | 1 => {
  const perSecond = width / (view.span / 1000);
  return perSecond <= 1 ? 1 : perSecond <= 10 ? 10 : 100;
};

/**
 * Lanes for stretches with what stands under them, so that none covers another; widths of labels in milliseconds. Given in order. What has no
 * room in the most lanes has that number and stands nowhere.
 */
export function lanesOf<T extends TimeRange>(clips: readonly T[], labelOf: (clip: T) => number, most = Infinity): { clip: T; lane: number }[] {
  const ends: number[] = [];
  return clips.map((clip) => {
    const free = ends.findIndex((end) => end <= clip.beginMs);
    const lane = free < 0 ? ends.length : free;
    if (lane >= most) return { clip, lane: most };
    ends[lane] = Math.max(clip.endMs, clip.beginMs + labelOf(clip));
    return { clip, lane };
  });
}

/** An edge that comes near the edge of a pause stands there: where speech begins or ends. */
export function snapped(at: number, pauses: readonly TimeRange[], near: number): number {
  let best = at;
  let distance = near;
  for (const pause of pauses)
    for (const edge of [pause.beginMs, pause.endMs])
      if (Math.abs(edge - at) < distance) {
        best = edge;
        distance = Math.abs(edge - at);
      }
  return best;
}

/** A time as somebody types it: 75, 1:15, 1:15.4, 1:02:03. Milliseconds; null for what is none. */
export function typedTime(typed: string): number | null {
  const found = /^\s*(?:(?:(\d+):)?(\d+):)?(\d+(?:[.,]\d+)?)\s*$/.exec(typed);
  if (!found) return null;
  const [, hours = '0', minutes = '0', seconds = '0'] = found;
  return Math.round((Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds.replace(',', '.'))) * 1000);
}

/** A moment as it is shown: 1:15.4, 1:02:03.0. */
export function momentIn(ms: number, tenths = true): string {
  const all = Math.max(0, Math.round(tenths ? ms / 100 : ms / 1000));
  const [whole, rest] = tenths ? [Math.floor(all / 10), `.${all % 10}`] : [all, ''];
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const two = (n: number) => String(n).padStart(2, '0');
  return (h > 0 ? `${h}:${two(m)}` : `${m}`) + `:${two(s)}${rest}`;
}
