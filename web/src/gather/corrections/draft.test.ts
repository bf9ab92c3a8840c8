// @vitest-environment jsdom
import { beforeEach, expect, test } from 'vitest';
import { draft } from './draft';

beforeEach(() => localStorage.clear());

test('what is typed is kept by source and by the text that it corrects', () => {
  draft.keep(3, 'a', 'mine');
  expect(draft.of(3, 'a')).toBe('mine');
  expect(draft.of(3, 'b')).toBeNull();
  expect(draft.of(30, 'a')).toBeNull();
  expect(draft.older(3, 'a')).toBeNull();
  draft.drop(3, 'a');
  expect(draft.of(3, 'a')).toBeNull();
});

test('what was begun on an earlier text is found again', () => {
  draft.keep(3, 'a', 'mine');
  expect(draft.older(3, 'b')).toEqual({ basedOn: 'a', text: 'mine' });
  expect(draft.older(30, 'b')).toBeNull();
});
