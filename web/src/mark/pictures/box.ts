import type { Box } from '@/mark/observations/stretch';

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
export const movedBox = (box: Box, by: { x: number; y: number }): Box => ({
  ...box,
  x: clamp(Math.round(box.x + by.x), 0, whole - box.width),
  y: clamp(Math.round(box.y + by.y), 0, whole - box.height),
});

/** The box with its lower right corner moved. */
export const resizedBox = (box: Box, by: { x: number; y: number }): Box => ({
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
export const cornerTo = (box: Box, corner: Corner, to: { x: number; y: number }): Box => boxBetween(cornerAt(box, opposite[corner]), to) ?? box;
