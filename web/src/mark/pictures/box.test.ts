import { expect, it } from 'vitest';
import { boxBetween, cornerTo, movedBox, resizedBox } from './box';

const box = { x: 1000, y: 2000, width: 3000, height: 1000 };

it('is drawn from any corner to the one across, within the picture', () => {
  expect(boxBetween({ x: 4000, y: 3000 }, { x: 1000, y: 2000 })).toEqual(box);
  expect(boxBetween({ x: -500, y: 9000 }, { x: 800, y: 12_000 })).toEqual({ x: 0, y: 9000, width: 800, height: 1000 });
  expect(boxBetween({ x: 10, y: 10 }, { x: 20, y: 4000 })).toBeNull();
});

it('moves and grows as far as the picture goes', () => {
  expect(movedBox(box, { x: 9000, y: -9000 })).toEqual({ ...box, x: 7000, y: 0 });
  expect(resizedBox(box, { x: 99_999, y: -99_999 })).toEqual({ ...box, width: 9000, height: 50 });
  expect(cornerTo(box, 'nw', { x: 0, y: 0 })).toEqual({ x: 0, y: 0, width: 4000, height: 3000 });
  // Over the corner across it turns inside out.
  expect(cornerTo(box, 'nw', { x: 5000, y: 4000 })).toEqual({ x: 4000, y: 3000, width: 1000, height: 1000 });
  expect(cornerTo(box, 'se', { x: 1000, y: 2000 })).toEqual(box);
});
