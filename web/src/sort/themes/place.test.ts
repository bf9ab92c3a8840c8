import { describe, expect, it } from 'vitest';
import { inTree, placeOf } from './place';

const themes = [
  { id: 1, parentId: null },
  { id: 2, parentId: null },
  { id: 3, parentId: 2 },
  { id: 4, parentId: 2 },
  { id: 5, parentId: null },
];

it('lists each theme before those under it', () => {
  expect(inTree(themes).map(({ theme, level }) => `${theme.id}/${level}`)).toEqual(['1/0', '2/0', '3/1', '4/1', '5/0']);
});

describe('a theme that is moved by keys', () => {
  it.each([
    [2, 'up', { parentId: null, beforeId: 1 }],
    [2, 'down', { parentId: null, beforeId: null }],
    [1, 'down', { parentId: null, beforeId: 5 }],
    [4, 'up', { parentId: 2, beforeId: 3 }],
    [5, 'in', { parentId: 2, beforeId: null }],
    [3, 'out', { parentId: null, beforeId: 5 }],
    [1, 'up', null],
    [5, 'down', null],
    [1, 'in', null],
    [3, 'in', null],
    [5, 'out', null],
  ] as const)('%i goes %s', (id, where, place) => {
    expect(placeOf(themes, id, where)).toEqual(place);
  });
});
