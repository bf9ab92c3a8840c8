/** A stretch of canonical text, half-open, in UTF-16 units. */
export interface Stretch {
  start: number;
  end: number;
}
