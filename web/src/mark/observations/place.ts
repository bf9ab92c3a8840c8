import type { Schemas } from '@/api/client';

/** A range of canonical text in UTF-16 units, half-open. */
export interface TextRange {
  start: number;
  end: number;
}

/** A range of a recording's time in milliseconds from its beginning, half-open. */
export interface TimeRange {
  beginMs: number;
  endMs: number;
}

/** A part of a picture, in ten-thousandths of its width and height from its upper left corner: a rectangle, or what lies in an outline of which it is the least box. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
  /** Corners of a free outline, as SVG writes points. */
  outline?: string | undefined;
}

/** A place in a picture. */
export interface InPicture {
  box: Box;
}

/** Where an observation stands: each kind has names of its own, so that letters are never taken for milliseconds. */
export type Place = TextRange | TimeRange | InPicture;

/** The places of each kind of anchor. */
export interface Places {
  text: TextRange;
  time: TimeRange;
  region: InPicture;
}

type Anchor = Schemas['Observation']['anchor'];

/** Whether two places of one source are the same. */
export const samePlace = (a: Place, b: Place) => JSON.stringify(anchorOf(a)) === JSON.stringify(anchorOf(b));

/** Where a place begins and ends, to be put in order among others of its kind; a picture has no order. */
export const endsOf = (place: Place): readonly [number, number] =>
  'start' in place ? [place.start, place.end] : 'beginMs' in place ? [place.beginMs, place.endMs] : [0, 0];

/** The place alone of something that has one. */
export function placeIn<P extends Place>(of: P): P;
export function placeIn(of: Place): Place {
  if ('start' in of) return { start: of.start, end: of.end };
  return 'beginMs' in of ? { beginMs: of.beginMs, endMs: of.endMs } : { box: of.box };
}

/** A place as the server is told of it. */
export function anchorOf(place: Place) {
  if ('start' in place) return { kind: 'text' as const, start: place.start, end: place.end };
  if ('beginMs' in place) return { kind: 'time' as const, beginMs: place.beginMs, endMs: place.endMs };
  const { x, y, width, height, outline } = place.box;
  return { kind: 'region' as const, x, y, width, height, outline };
}

/** A place as the server tells it. */
export function placeOf(anchor: Anchor): Place {
  if (anchor.kind === 'text') return { start: anchor.start, end: anchor.end };
  if (anchor.kind === 'time') return { beginMs: anchor.beginMs, endMs: anchor.endMs };
  const { x, y, width, height, outline } = anchor;
  return { box: { x, y, width, height, ...(outline === null ? {} : { outline }) } };
}
