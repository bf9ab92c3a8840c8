import { expect, it } from 'vitest';
import type { Schemas } from '@/api/client';
import { asText, differencesOf, outlineOf } from './differences';

const tag = (id: number, name: string, parentId: number | null = null, definition = ''): Schemas['TagThen'] => ({
  id,
  name,
  parentId,
  definition,
  isNot: '',
  settled: false,
  retired: false,
  splitInto: [],
});
const history: Schemas['TagSetThen'] = {
  first: '2026-01-05',
  tags: [tag(1, 'hearing'), tag(2, 'late', 1), tag(3, 'queueing')],
  now: [tag(1, 'hearing of it', null, 'How the news came.'), tag(4, 'queue'), tag(5, 'after loading', 1)],
  differences: [
    { then: tag(1, 'hearing'), now: tag(1, 'hearing of it', null, 'How the news came.'), changes: ['renamed', 'defined'], into: [] },
    { then: null, now: tag(5, 'after loading', 1), changes: ['added'], into: [] },
    { then: tag(3, 'queueing'), now: null, changes: ['merged'], into: [4] },
    { then: tag(2, 'late', 1), now: null, changes: ['split'], into: [5, 4] },
  ],
};

it('says what became of the tag set, kind by kind', () => {
  expect(differencesOf(history).map(({ head, lines }) => [head, ...lines.map((l) => l.says)])).toEqual([
    ['Added', 'under “hearing of it”: “after loading”'],
    ['Merged', '“queueing” into “queue”'],
    ['Split', '“late” into “after loading” and “queue”; it went'],
    ['Renamed', '“hearing” is now “hearing of it”'],
    ['New definition', '“hearing of it”: How the news came. Before: nothing'],
  ]);
  expect(asText('5 January', history).split('\n').slice(0, 2)).toEqual([
    'The tag set had 3 tags on 5 January and has 3 now.',
    'Added (1): under “hearing of it”: “after loading”.',
  ]);
});

it('stands as an outline, and what stood under a tag that is not there stands at the top', () => {
  expect(outlineOf([tag(2, 'b', 1), tag(1, 'a'), tag(3, 'c', 9)]).map(({ tag: t, depth }) => `${t.name} ${depth}`)).toEqual(['a 0', 'b 1', 'c 0']);
});
