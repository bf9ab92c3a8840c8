import { expect, it } from 'vitest';
import { boxBetween, cornerTo, movedBox, outlined, resizedBox, simpler } from './box';

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

it('takes a free outline along when it is moved and sized', () => {
  const drawn = outlined([
    { x: 1000, y: 2000 },
    { x: 3000, y: 2000 },
    { x: 2000, y: 12_000 },
  ])!;
  expect(drawn).toEqual({ x: 1000, y: 2000, width: 2000, height: 8000, outline: '1000,2000 3000,2000 2000,10000' });
  expect(movedBox(drawn, { x: -5000, y: -500 }).outline).toBe('0,1500 2000,1500 1000,9500');
  expect(resizedBox(drawn, { x: 2000, y: -4000 }).outline).toBe('1000,2000 5000,2000 3000,6000');
  expect(cornerTo(drawn, 'se', { x: 2000, y: 6000 }).outline).toBe('1000,2000 2000,2000 1500,6000');
  expect(
    outlined([
      { x: 1, y: 1 },
      { x: 9, y: 9 },
    ]),
  ).toBeNull();
});

it('keeps the corners of what a hand draws and leaves out what stands out by next to nothing', () => {
  const hand = Array.from({ length: 101 }, (_, i) => ({ x: i * 50, y: (i % 2) * 5 }));
  expect(simpler([...hand, { x: 5000, y: 4000 }, { x: 0, y: 4000 }])).toEqual([hand[0], hand[100], { x: 5000, y: 4000 }, { x: 0, y: 4000 }]);
  const circle = Array.from({ length: 5000 }, (_, i) => ({ x: 5000 + 4000 * Math.cos(i / 795.8), y: 5000 + 4000 * Math.sin(i / 795.8) }));
  expect(simpler(circle, 0.0001).length).toBeLessThanOrEqual(300);
});
