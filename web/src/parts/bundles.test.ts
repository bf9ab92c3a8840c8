import { describe, expect, it } from 'vitest';
import { inTreeOrder, pathOf, standsFor } from './bundles';

const tag = (id: number, name: string, parentId: number | null, members: number[] | null = null) => ({ id, name, parentId, members });
// As the server lists them: by place among those beside them, not by the tree.
const tags = [
  tag(1, 'hearing', null),
  tag(2, 'boarding', null),
  tag(3, 'queue', 2),
  tag(4, 'late', 1),
  tag(5, 'too late', 4),
  tag(9, 'report', null, [3, 4, 77]),
];

describe('Bundles', () => {
  it('hold their tags in the order of the tree, without those that are gone', () => {
    expect(inTreeOrder(tags, [77, 3, 5, 4]).map((t) => t.name)).toEqual(['late', 'too late', 'queue']);
    expect(pathOf(tags, tags[4]!)).toEqual(['hearing', 'late']);
  });

  it('stand for what they hold and all under it; a tag stands for itself alone', () => {
    expect([...standsFor(tags, [9])].toSorted()).toEqual([3, 4, 5]);
    expect([...standsFor(tags, [1])]).toEqual([1]);
    expect([...standsFor(tags, [1, 9])].toSorted()).toEqual([1, 3, 4, 5]);
  });
});
