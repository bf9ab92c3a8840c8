import { QueryClient } from '@tanstack/react-query';
import { expect, it } from 'vitest';
import { makeRouter } from './router';

it('has a title for every page', () => {
  const pages = Object.values(makeRouter(new QueryClient()).routesById).filter((route) => route.options.component && !route.children);
  expect(pages.length).toBeGreaterThan(30);
  expect(pages.filter((route) => !route.options.staticData?.title).map((route) => route.fullPath)).toEqual([]);
});
