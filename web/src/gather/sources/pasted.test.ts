import { expect, it } from 'vitest';
import { looksLikeTable, notesIn, tagNamesIn } from './pasted';

it('makes the notes that the server makes', () => {
  expect(notesIn('one\r\n  two \n\n \t\nthree\n', 'line')).toEqual(['one', 'two', 'three']);
  expect(notesIn('\n\none\nstill one\n \n\ntwo\n\n', 'blankLine')).toEqual(['one\nstill one', 'two']);
  expect(notesIn(' \n', 'blankLine')).toEqual([]);
});

it('reads tag names between commas, once each', () => expect(tagNamesIn(' late,  not  told ,, late')).toEqual(['late', 'not told']));

it('tells cells from prose', () => {
  expect(looksLikeTable('who\twhy\nS1\tlate')).toBe(true);
  expect(looksLikeTable('one line\twith a tab\nand one without')).toBe(false);
  expect(looksLikeTable('who\twhy')).toBe(false);
});
