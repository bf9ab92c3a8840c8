import { expect, test } from 'vitest';
import { isEmpty, lassoOf, nothing, observationsOf, said, toggledPiece, withTouched } from './chosen';

test('a frame adds what it touches to what was chosen, each once', () => {
  const piece = { themeId: 3, observationId: 7 };
  const before = { observations: [1], tags: [], pieces: [piece] };
  const after = withTouched(before, [
    lassoOf.observation(1),
    lassoOf.observation(2),
    lassoOf.tag(9),
    lassoOf.piece(piece),
    lassoOf.piece({ themeId: 4, observationId: 7 }),
  ]);
  expect(after).toEqual({ observations: [1, 2], tags: [9], pieces: [piece, { themeId: 4, observationId: 7 }] });
  // An observation that lies in two themes is one.
  expect(observationsOf(after)).toEqual([1, 2, 7]);
  expect(said(after)).toBe('3 observations and 1 tag');
});

test('a piece is chosen and not chosen any more', () => {
  const once = toggledPiece(nothing, { themeId: 3, observationId: 7 });
  expect(isEmpty(once)).toBe(false);
  expect(toggledPiece(once, { themeId: 3, observationId: 7 })).toEqual(nothing);
});
