import { count } from '@/parts/words';

/** Where a piece lies. */
export interface PieceIn {
  themeId: number;
  observationId: number;
}

/** What is chosen or dragged: observations of the shelf, whole tags, pieces of themes. */
export interface Chosen {
  observations: number[];
  tags: number[];
  pieces: PieceIn[];
}

export const nothing: Chosen = { observations: [], tags: [], pieces: [] };

/** All observations of it, each once, wherever they lie. */
export const observationsOf = (c: Chosen) => [...new Set([...c.observations, ...c.pieces.map((p) => p.observationId)])];

export const isEmpty = (c: Chosen) => c.observations.length + c.tags.length + c.pieces.length === 0;

export const holds = (c: Chosen, piece: PieceIn) => c.pieces.some((p) => p.themeId === piece.themeId && p.observationId === piece.observationId);

export const toggledPiece = (c: Chosen, piece: PieceIn): Chosen => ({
  ...c,
  pieces: holds(c, piece) ? c.pieces.filter((p) => p.themeId !== piece.themeId || p.observationId !== piece.observationId) : [...c.pieces, piece],
});

/** In words: "3 observations and 1 tag". */
export const said = (c: Chosen) =>
  [observationsOf(c).length > 0 && count(observationsOf(c).length, 'observation'), c.tags.length > 0 && count(c.tags.length, 'tag')]
    .filter(Boolean)
    .join(' and ');

/** How a thing is known to a frame that is drawn around it. */
export const lassoOf = {
  observation: (id: number) => `o${id}`,
  tag: (id: number) => `t${id}`,
  piece: ({ themeId, observationId }: PieceIn) => `p${themeId} ${observationId}`,
};

/** What was chosen, and what a frame touches. */
export function withTouched(before: Chosen, touched: readonly string[]): Chosen {
  const ids = (kind: string) => touched.filter((t) => t.startsWith(kind)).map((t) => Number(t.slice(1)));
  const pieces = touched
    .filter((t) => t.startsWith('p'))
    .map((t) => {
      const [themeId, observationId] = t.slice(1).split(' ').map(Number);
      return { themeId: themeId!, observationId: observationId! };
    });
  return {
    observations: [...new Set([...before.observations, ...ids('o')])],
    tags: [...new Set([...before.tags, ...ids('t')])],
    pieces: [...before.pieces, ...pieces.filter((p) => !holds(before, p))],
  };
}
