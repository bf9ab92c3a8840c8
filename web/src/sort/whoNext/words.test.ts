import { expect, test } from 'vitest';
import { groupWords, heardWords, runWords } from './words';

test('a group is called by what its people share, and a combination says what was to be expected', () => {
  const values = [
    { attributeId: 1, attribute: 'home', value: 'Skelda' },
    { attributeId: 2, attribute: 'boards', value: 'with a pram' },
  ];
  expect(groupWords({ values })).toBe('home: Skelda, boards: with a pram');
  expect(heardWords({ heard: 0, people: 0, expected: 1.25 })).toMatch(/^nobody in the study; about 1\.3 were/);
  expect(heardWords({ heard: 1, people: 21, expected: null })).toBe('1 of 21 heard');
  expect(heardWords({ heard: 0, people: 2, expected: null })).toBe('none of 2 heard');
});

test('the last sessions are told against the first, and too few say so', () => {
  expect(runWords({ base: 4, baseTags: 20, run: 2, newTags: 1, share: 0.05 })).toBe(
    'The last 2 brought 1 new tag; the first 4 had 20. That is 5 %: little new comes by tags.',
  );
  expect(runWords({ base: 4, baseTags: 20, run: 2, newTags: 3, share: 0.15 })).toMatch(/15 %: new things still come\.$/);
  expect(runWords(null)).toMatch(/^It takes six sessions/);
});
