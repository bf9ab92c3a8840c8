// @vitest-environment jsdom
import { expect, test } from 'vitest';
import { pageSteps } from './pageSteps';

test('steps of a page are undone and redone in their order, and forgotten with the page', () => {
  window.history.pushState({}, '', '/intake');
  pageSteps.made(1);
  pageSteps.made(2);
  pageSteps.made(3);
  pageSteps.taken(2);
  expect([pageSteps.back(), pageSteps.back(), pageSteps.back()]).toEqual([3, 1, null]);
  expect([pageSteps.again(), pageSteps.again(), pageSteps.again(), pageSteps.again()]).toEqual([1, 3, 2, null]);
  window.history.pushState({}, '', '/tags');
  expect(pageSteps.back()).toBeNull();
});
