import { expect, test } from 'vitest';
import { evidenceOf, ofPerson } from './evidence';

test('a cell speaks the words of conditions', () => {
  expect(evidenceOf({ tagId: 2, cell: { participantIds: [3], values: [{ attributeId: 4, value: '' }] } })).toEqual({
    tagId: 2,
    cell: { participantIds: [3], values: [{ attributeId: 4, value: '' }] },
  });
  expect(ofPerson({ themeId: 1 }, 3)).toEqual({ themeId: 1, cell: { participantIds: [3] } });
  expect(ofPerson({ themeId: 1 }, null)).toEqual({ themeId: 1 });
});

test('an address of before opens the same cell, and never the whole row', () => {
  expect(evidenceOf({ tagId: 2, sourceId: 7 })).toEqual({ tagId: 2, cell: { sourceIds: [7] } });
  expect(evidenceOf({ tagId: 2, participantId: 3 })).toEqual({ tagId: 2, cell: { participantIds: [3] } });
  expect(evidenceOf({ tagId: 2, sourceKind: 'interview' })).toEqual({ tagId: 2, cell: { sourceKinds: ['interview'] } });
  expect(evidenceOf({ tagId: 2, attributeId: 4, value: 'Tarra' })).toEqual({ tagId: 2, cell: { values: [{ attributeId: 4, value: 'Tarra' }] } });
});

test.each([null, undefined, 'x', 4])('%s asks for no evidence', (given) => expect(evidenceOf(given)).toBeUndefined());

test('what is no id is left out', () => expect(evidenceOf({ tagId: '2', overlap: 'both', cell: { sourceIds: ['7', -1] } })).toEqual({}));
