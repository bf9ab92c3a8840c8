import { expect, test } from 'vitest';
import { holds, isIn } from './views';

const routing = (studyId: number, state: 'waiting' | 'kept') => ({ id: 1, feedbackId: 1, studyId, watchName: '', met: '', state, sourceId: null });
const piece = {
  id: 1,
  channelId: 1,
  sender: 'Wren',
  title: 'Late',
  text: 'No boat.',
  rating: null,
  writtenAt: '',
  routings: [routing(1, 'kept'), routing(2, 'waiting')],
};

test.each([
  ['waiting', undefined, true],
  ['waiting', 1, false],
  ['kept', 1, true],
  ['dismissed', undefined, false],
  ['nowhere', undefined, false],
  ['all', 3, false],
  ['all', undefined, true],
] as const)('in the view %s of study %s: %s', (view, study, there) => {
  expect(isIn(piece, view, study)).toBe(there);
  expect(isIn({ ...piece, routings: [] }, 'nowhere', study)).toBe(true);
});

test('all that is typed must be in it', () => {
  expect(holds(piece, 'wren boat')).toBe(true);
  expect(holds(piece, 'wren train')).toBe(false);
  expect(holds(piece, '')).toBe(true);
});
