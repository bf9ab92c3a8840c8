import { expect, it } from 'vitest';
import type { Schemas } from '@/api/client';
import { tagLooks } from './tagLook';

const tag = (id: number, more: Partial<Schemas['Tag']> = {}): Schemas['Tag'] => ({
  id,
  studyId: null,
  name: `tag ${id}`,
  parentId: null,
  colour: null,
  definition: '',
  isNot: '',
  members: null,
  aliases: [],
  settled: true,
  retired: false,
  scale: null,
  version: 1,
  ...more,
});

it('gives children tints of their family, apart from each other', () => {
  const look = tagLooks([tag(1, { colour: 4 }), tag(2, { parentId: 1 }), tag(3, { parentId: 1 }), tag(4, { parentId: 1 })]);
  expect(look(1).colour).toBe('var(--tag-4)');
  const children = [2, 3, 4].map((id) => look(id).colour);
  expect(new Set(children).size).toBe(3);
  expect(children.every((c) => c.includes('--tag-4'))).toBe(true);
});

it('shows a loose draft in brass, a removed tag as such, and one that has just been made as new', () => {
  const look = tagLooks([tag(3, { settled: false })]);
  expect(look(3)).toEqual({ name: 'tag 3', colour: 'var(--brass)', draft: true, bundle: false });
  expect(look(2).name).toBe('removed tag');
  expect(look(4)).toEqual({ name: 'new tag', colour: 'var(--brass)', draft: true });
});
