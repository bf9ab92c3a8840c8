/** A stretch of canonical text in UTF-16 units, or of a recording in milliseconds; half-open. */
export interface Stretch {
  start: number;
  end: number;
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

/** Along what observations of a source stand: the letters of a text, the milliseconds of a recording, or the area of a picture. */
export type Along = 'text' | 'time' | 'region';

/** Where an observation stands. A region of a picture has no stretch, but a box. */
export interface Place extends Stretch {
  box?: Box | undefined;
}

/** A place in a picture. */
export const inPicture = (box: Box): Place => ({ start: 0, end: 0, box });

/** Whether two places of one source are the same. */
export const samePlace = (a: Place, b: Place) =>
  a.start === b.start &&
  a.end === b.end &&
  a.box?.x === b.box?.x &&
  a.box?.y === b.box?.y &&
  a.box?.width === b.box?.width &&
  a.box?.height === b.box?.height &&
  a.box?.outline === b.box?.outline;

/** A place as the server is told of it. */
export function anchorOf(along: Along, { start, end, box }: Place) {
  if (along === 'text') return { kind: 'text' as const, start, end };
  if (along === 'time') return { kind: 'time' as const, beginMs: start, endMs: end };
  return { kind: 'region' as const, ...box };
}
