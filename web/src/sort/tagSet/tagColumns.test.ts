import { expect, it } from 'vitest';
import type { EditedTag } from './edited';
import { listedBy } from './tagColumns';

const tag = (name: string, observations: number, more: Partial<EditedTag> = {}) =>
  ({ name, observations, settled: true, definition: 'x', madeBy: 'Ida', lastUsedAt: null, ...more }) as EditedTag;
const tags = [tag('tag 10', 3), tag('tag 9', 3, { settled: false, definition: ' ' }), tag('Late', 1, { lastUsedAt: '2026-03-02' }), tag('mud', 0)];
const names = (...of: Parameters<typeof listedBy> extends [unknown, ...infer R] ? R : never) => listedBy(tags, ...of).map((t) => t.name);

it('tags are listed by a column, equal ones by name, numbers in names as numbers', () => {
  expect(names(null, 'name', false)).toEqual(['Late', 'mud', 'tag 9', 'tag 10']);
  expect(names(null, 'observations', true)).toEqual(['tag 9', 'tag 10', 'Late', 'mud']);
  expect(names(null, 'lastUsed', true)[0]).toBe('Late');
});

it('drafts, those without a definition, used once or never are told apart', () => {
  expect(names('drafts', 'name', false)).toEqual(['tag 9']);
  expect(names('undefined', 'name', false)).toEqual(['tag 9']);
  expect(names('once', 'name', false)).toEqual(['Late']);
  expect(names('unused', 'name', false)).toEqual(['mud']);
  expect(names('onePerson', 'name', false)).toEqual([]);
});
