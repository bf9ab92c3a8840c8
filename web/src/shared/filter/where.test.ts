import { expect, it } from 'vitest';
import { asking, asQuery, whereOf, whole } from './where';

it('takes from an address what it knows, and leaves out the rest', () => {
  expect(
    whereOf({
      participantIds: [3, 3, '4', -1, null],
      values: [{ attributeId: 2, value: 'Quay' }, { attributeId: 2 }, null, 'x'],
      ranges: [
        { attributeId: 5, min: '18', max: 'old' },
        { attributeId: 6, min: '2026-03-01', max: '7' },
        { attributeId: 7, min: null },
        { attributeId: 8, max: '-2.5e3' },
        { attributeId: 9, min: '' },
      ],
      sourceKinds: ['diary', 'gossip'],
      heldFrom: '2026-03-01',
      heldTo: 'tomorrow',
      sentiments: ['mixed', 'glad'],
      starred: 'yes',
      reviewed: true,
      colour: 1,
    }),
  ).toEqual({
    participantIds: [3],
    values: [{ attributeId: 2, value: 'Quay' }],
    ranges: [
      { attributeId: 5, min: '18', max: null },
      { attributeId: 8, min: null, max: '-2.5e3' },
    ],
    sourceKinds: ['diary'],
    heldFrom: '2026-03-01',
    sentiments: ['mixed'],
    reviewed: true,
  });
  for (const nothing of [undefined, null, 'x', {}, { tagIds: [] }, { starred: false }]) expect(whereOf(nothing)).toBeUndefined();
});

it('is carried as JSON, and only when it asks for something', () => {
  expect(asQuery(undefined)).toEqual({});
  expect(asQuery(asking({ tagIds: [1], unsure: false, heldFrom: null }))).toEqual({ where: '{"tagIds":[1]}' });
  expect(whereOf(whole({ tagIds: [1] }))).toEqual({ tagIds: [1] });
});
