import { expect, it } from 'vitest';
import { headingOf } from './headingOf';

it('a heading stands where another source or person begins', () => {
  const results = [
    { sourceId: 1, participantId: 3 },
    { sourceId: 1, participantId: 4 },
    { sourceId: 2, participantId: 4 },
    { sourceId: 2, participantId: null },
  ];
  const headings = (groupBy: 'person' | undefined) =>
    results.map((_, i) =>
      headingOf(
        results,
        i,
        groupBy,
        ({ sourceId }) => `source ${sourceId}`,
        (id) => `person ${id}`,
      ),
    );
  expect(headings(undefined)).toEqual(['source 1', undefined, 'source 2', undefined]);
  expect(headings('person')).toEqual(['person 3', 'person 4', undefined, 'person null']);
});
