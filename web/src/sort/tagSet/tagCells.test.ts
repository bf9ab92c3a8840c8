import { expect, it } from 'vitest';
import { inCell } from './tagCells';

const tag = {
  name: 'effort',
  definition: 'What it cost them.',
  isNot: '',
  aliases: ['hard work', 'a; b'],
  settled: true,
  scale: { least: 0, most: 90, step: 5, unit: 'minutes', lowLabel: 'short', highLabel: '' },
  colour: 2,
};

it('stands in cells as the server reads it', () => {
  expect(inCell(tag, 'under', ['hearing', 'late / later'])).toBe('hearing / late \\/ later');
  expect(inCell(tag, 'aliases', [])).toBe('hard work; a\\; b');
  expect(inCell(tag, 'scale', [])).toBe('0 to 90 in steps of 5 minutes (least: short; most: )');
  expect(inCell({ ...tag, scale: { ...tag.scale, step: 1, unit: '', lowLabel: '' } }, 'scale', [])).toBe('0 to 90');
  expect(['state', 'colour', 'isNot'].map((c) => inCell(tag, c as 'state', []))).toEqual(['settled', '3', '']);
});
