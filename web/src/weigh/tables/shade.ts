/** A cell's background for a share of the largest, 0..1 (by its square root, so that ones and twos stay apart), deep enough to read along and light enough to read on. */
export const shade = (share: number) =>
  share <= 0 ? 'var(--case)' : `color-mix(in oklab, var(--verdigris) ${Math.round(8 + 40 * Math.sqrt(Math.min(1, share)))}%, var(--case))`;
