import { expect, it } from 'vitest';
import { clock, count, day, ofPeople } from './words';

it('counts in words', () => {
  expect(count(1, 'observation')).toBe('1 observation');
  expect(count(0, 'person', 'people')).toBe('0 people');
});

it('gives numbers their denominators', () => {
  expect(ofPeople(6, 9)).toBe('6 of 9 people');
  expect(ofPeople(1, 1)).toBe('1 of 1 person');
  expect(ofPeople(0, 0)).toBe('nobody asked yet');
});

it('tells the time of a recording', () => {
  expect(clock(0)).toBe('00:00');
  expect(clock(726_999)).toBe('12:06');
  expect(clock(3_723_000)).toBe('1:02:03');
});

it('keeps a stored day that day in every time zone', () => {
  expect(day('2026-11-07')).toContain('7');
  expect(day('2026-01-01')).toContain('2026');
});
