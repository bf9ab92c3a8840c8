import { expect, it } from 'vitest';
import { boxFragment, boxIn, timeFragment, timeIn } from './mediaFragment';

// The forms of W3C's "Media Fragments 1.0 Test Cases" for user agents; names and values are from memory.
it.each([
  ['TC0001 t=3,7', '#t=3,7', 3000, 7000],
  ['TC0002 t=3', '#t=3', 3000, null],
  ['TC0003 t=,7', '#t=,7', 0, 7000],
  ['TC0004 t=npt:3,7', '#t=npt:3,7', 3000, 7000],
  ['TC0006 t=0:00:03,0:00:07', '#t=0:00:03,0:00:07', 3000, 7000],
  ['TC0007 t=00:03,00:07', '#t=00:03,00:07', 3000, 7000],
  ['TC0009 t=%6ept:3 (percent-encoded)', '#t=%6ept:3', 3000, null],
  ['TC0014 unknown names are passed over', '#u=12&t=3', 3000, null],
  ['TC0015 the last one counts', '#t=3&t=5', 5000, null],
  ['section 4.2.1, a fraction', '#t=3.25,01:00.5', 3250, 60_500],
])('reads %s', (_, hash, beginMs, endMs) => expect(timeIn(hash)).toEqual({ beginMs, endMs }));

it.each(['#t=7,3', '#t=3,3', '#t=banana', '#t=3,7,9', '#t=3:7', '#t=1:77', '#t=-3,7', '#t=,', '#t=%20', '#t', '', '#%E0%A4%A=3'])(
  'takes nothing from %s, which cannot be',
  (hash) => expect(timeIn(hash)).toBeNull(),
);

it('reads a part of a picture in percent', () => {
  expect(boxIn('#xywh=percent:25,25,50,50')).toEqual({ x: 2500, y: 2500, width: 5000, height: 5000 });
  for (const none of ['#xywh=160,120,320,240', '#xywh=percent:60,60,50,10', '#xywh=percent:1,1,0,5', '#xywh=percent:a,1,1,1']) expect(boxIn(none)).toBeNull();
});

it('writes what it reads', () => {
  expect(timeFragment({ beginMs: 59_500, endMs: 65_000 })).toBe('#t=59.5,65');
  expect(timeIn(timeFragment({ beginMs: 59_501, endMs: 65_003 }))).toEqual({ beginMs: 59_501, endMs: 65_003 });
  const box = { x: 1033, y: 2, width: 55, height: 9998 };
  expect(boxIn(boxFragment(box))).toEqual(box);
});
