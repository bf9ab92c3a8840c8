import { useKept } from '@/shared/useKept';

export const sizes = [14, 15.5, 17, 19, 22] as const;
export const measures = [480, 600, 720, 860] as const;
export const spacings = [1.45, 1.65, 1.9] as const;
export const numberings = ['none', 'paragraphs', 'lines'] as const;
export type Numbering = (typeof numberings)[number];

/** How a person has the words set, on this machine. */
export interface TextLook {
  /** Letters, in pixels. */
  size: number;
  /** The longest line, in pixels. */
  measure: number;
  /** From line to line, in letters. */
  spacing: number;
  numbers: Numbering;
}

export const usual: TextLook = { size: 17, measure: 600, spacing: 1.65, numbers: 'none' };

const oneOf = (all: readonly unknown[], value: unknown) => all.includes(value);
const isLook = (value: unknown): value is TextLook => {
  if (typeof value !== 'object' || value === null) return false;
  const look = value as Record<string, unknown>;
  return oneOf(sizes, look['size']) && oneOf(measures, look['measure']) && oneOf(spacings, look['spacing']) && oneOf(numberings, look['numbers']);
};

export const useTextLook = () => useKept<TextLook>('text-look', usual, isLook);

/** From line to line, in pixels: whole ones, so that threads lie alike under all of them. */
export const lineHeight = ({ size, spacing }: TextLook) => Math.round(size * spacing);
