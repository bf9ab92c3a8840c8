import { expect, it } from 'vitest';
import { fitting, following, lanesOf, momentIn, resolutionFor, ruled, snapped, typedTime, within, zoomed } from './view';

it('stays within the recording, however it is moved and zoomed', () => {
  expect(within({ from: -50, span: 5000 }, 60_000)).toEqual({ from: 0, span: 5000 });
  expect(within({ from: 58_000, span: 5000 }, 60_000)).toEqual({ from: 55_000, span: 5000 });
  expect(within({ from: 0, span: 1 }, 60_000).span).toBe(1000);
  expect(zoomed({ from: 10_000, span: 20_000 }, 0.5, 15_000, 60_000)).toEqual({ from: 12_500, span: 10_000 });
  expect(zoomed({ from: 10_000, span: 20_000 }, 100, 15_000, 60_000)).toEqual({ from: 0, span: 60_000 });
  expect(fitting({ beginMs: 10_000, endMs: 20_000 }, 60_000)).toEqual({ from: 8500, span: 13_000 });
});

it('follows the playing position when it runs out', () => {
  const view = { from: 10_000, span: 10_000 };
  expect(following(view, 15_000, 60_000)).toBe(view);
  expect(following(view, 19_800, 60_000)).toEqual({ from: 18_800, span: 10_000 });
  expect(following(view, 2000, 60_000)).toEqual({ from: 1000, span: 10_000 });
});

it('rules time in steps that can be read', () => {
  expect(ruled({ from: 61_000, span: 10_000 }, 800)).toEqual({ step: 1000, at: [61, 62, 63, 64, 65, 66, 67, 68, 69, 70, 71].map((s) => s * 1000) });
  expect(ruled({ from: 0, span: 7_200_000 }, 800).step).toBe(1_200_000);
  expect(resolutionFor({ from: 0, span: 7_200_000 }, 800)).toBe(1);
  expect(resolutionFor({ from: 0, span: 100_000 }, 800)).toBe(10);
  expect(resolutionFor({ from: 0, span: 10_000 }, 800)).toBe(100);
});

it('packs clips and their labels into lanes', () => {
  const clips = [
    { beginMs: 0, endMs: 100 },
    { beginMs: 50, endMs: 60 },
    { beginMs: 110, endMs: 120 },
    { beginMs: 130, endMs: 140 },
  ];
  expect(lanesOf(clips, () => 20).map((l) => l.lane)).toEqual([0, 1, 0, 0]);
  expect(lanesOf(clips, () => 100).map((l) => l.lane)).toEqual([0, 1, 0, 2]);
});

it('catches an edge at the nearest edge of a pause', () => {
  const pauses = [
    { beginMs: 1000, endMs: 1500 },
    { beginMs: 3000, endMs: 3300 },
  ];
  expect(snapped(1060, pauses, 150)).toBe(1000);
  expect(snapped(3250, pauses, 150)).toBe(3300);
  expect(snapped(2000, pauses, 150)).toBe(2000);
});

it('reads and writes times', () => {
  expect(['75', '1:15', '1:15,4', '1:02:03', ' 0:05 '].map(typedTime)).toEqual([75_000, 75_000, 75_400, 3_723_000, 5000]);
  expect(['', 'later', '1:', '-3'].map(typedTime)).toEqual([null, null, null, null]);
  expect([0, 75_449, 75_450, 3_723_000].map((ms) => momentIn(ms))).toEqual(['0:00.0', '1:15.4', '1:15.5', '1:02:03.0']);
  expect(momentIn(59_999, false)).toBe('1:00');
});

it('gives what has no room no lane', () => {
  const clips = [0, 1, 2, 3].map((n) => ({ beginMs: n, endMs: n + 1 }));
  expect(lanesOf(clips, () => 10, 2).map((p) => p.lane)).toEqual([0, 1, 2, 2]);
});
