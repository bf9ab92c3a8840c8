import type { Box } from '@/mark/observations/place';

/** The whole width, and the whole height, of a picture. */
export const whole = 10_000;
/** The smallest region that can be drawn. */
const least = 50;

const clamp = (n: number, from: number, to: number) => Math.min(Math.max(from, n), Math.max(from, to));

/** The box between two points, cut at the picture's edges; null for one too small to be meant. */
export function boxBetween(a: { x: number; y: number }, b: { x: number; y: number }): Box | null {
  const [left, right] = [clamp(Math.round(Math.min(a.x, b.x)), 0, whole), clamp(Math.round(Math.max(a.x, b.x)), 0, whole)];
  const [top, bottom] = [clamp(Math.round(Math.min(a.y, b.y)), 0, whole), clamp(Math.round(Math.max(a.y, b.y)), 0, whole)];
  return right - left >= least && bottom - top >= least ? { x: left, y: top, width: right - left, height: bottom - top } : null;
}

/** The box moved, as far as the picture goes. */
export const movedBox = (box: Box, by: { x: number; y: number }): Box =>
  along(box, { ...box, x: clamp(Math.round(box.x + by.x), 0, whole - box.width), y: clamp(Math.round(box.y + by.y), 0, whole - box.height) });

/** The box with its lower right corner moved. */
export const resizedBox = (box: Box, by: { x: number; y: number }): Box =>
  along(box, {
    ...box,
    width: clamp(Math.round(box.width + by.x), least, whole - box.x),
    height: clamp(Math.round(box.height + by.y), least, whole - box.y),
  });

/** Corners of a box, by which it is resized; each leaves the opposite one where it is. */
export const corners = ['nw', 'ne', 'sw', 'se'] as const;
export type Corner = (typeof corners)[number];

export const cornerAt = ({ x, y, width, height }: Box, corner: Corner) => ({
  x: corner.endsWith('w') ? x : x + width,
  y: corner.startsWith('n') ? y : y + height,
});

const opposite: Record<Corner, Corner> = { nw: 'se', ne: 'sw', sw: 'ne', se: 'nw' };

/** The box when one of its corners is dragged to a point; the box itself where that leaves too little. */
export const cornerTo = (box: Box, corner: Corner, to: { x: number; y: number }): Box => {
  const next = boxBetween(cornerAt(box, opposite[corner]), to);
  return next ? along(box, { ...next, outline: box.outline }) : box;
};

export interface Point {
  x: number;
  y: number;
}

export const pointsOf = (outline: string): Point[] =>
  outline
    .split(' ')
    .filter((part) => part !== '')
    .map((part) => {
      const [x = 0, y = 0] = part.split(',').map(Number);
      return { x, y };
    });

/** The outline of a box goes along when the box is moved or sized. */
function along(box: Box, next: Box): Box {
  if (box.outline === undefined) return next;
  const at = (n: number, from: number, size: number, to: number, toSize: number) => Math.round(to + ((n - from) * toSize) / Math.max(1, size));
  const points = pointsOf(box.outline).map((p) => ({ x: at(p.x, box.x, box.width, next.x, next.width), y: at(p.y, box.y, box.height, next.y, next.height) }));
  return outlined(points) ?? next;
}

/** The least box around an outline, with the outline; null for one that is too small to be meant. */
export function outlined(points: readonly Point[]): Box | null {
  const inside = points.map((p) => ({ x: clamp(Math.round(p.x), 0, whole), y: clamp(Math.round(p.y), 0, whole) }));
  const corners = inside.filter((p, i) => i === 0 || p.x !== inside[i - 1]!.x || p.y !== inside[i - 1]!.y);
  if (corners.length < 3) return null;
  const [xs, ys] = [corners.map((p) => p.x), corners.map((p) => p.y)];
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  const [width, height] = [Math.max(...xs) - x, Math.max(...ys) - y];
  if (width < least || height < least) return null;
  return { x, y, width, height, outline: corners.map((p) => `${p.x},${p.y}`).join(' ') };
}

/** The most corners of an outline that a hand draws. */
const mostCorners = 300;

/** What a hand has drawn with fewer corners: those that stand out by less than a little are left out (Ramer 1972, Douglas & Peucker 1973). */
export function simpler(points: readonly Point[], little = 20): Point[] {
  const kept = new Set([0, points.length - 1]);
  const look = (from: number, to: number) => {
    const [a, b] = [points[from]!, points[to]!];
    const long = Math.hypot(b.x - a.x, b.y - a.y);
    let [most, at] = [little, -1];
    for (let i = from + 1; i < to; i++) {
      const p = points[i]!;
      const off = long === 0 ? Math.hypot(p.x - a.x, p.y - a.y) : Math.abs((b.x - a.x) * (a.y - p.y) - (a.x - p.x) * (b.y - a.y)) / long;
      if (off > most) [most, at] = [off, i];
    }
    if (at < 0) return;
    kept.add(at);
    look(from, at);
    look(at, to);
  };
  if (points.length > 2) look(0, points.length - 1);
  const fewer = points.filter((_, i) => kept.has(i));
  return fewer.length > mostCorners ? simpler(points, little * 2) : fewer;
}
