import { QueryClient } from '@tanstack/react-query';
import { expect, it } from 'vitest';
import { pageTitles } from './pageTitles';
import { makeRouter } from './router';

it('has a title for every page, each its own within its place', () => {
  const pages = Object.keys(makeRouter(new QueryClient()).routesByPath);
  expect(pages.filter((page) => pageTitles[page] === undefined && pageTitles[`${page}/`] === undefined)).toEqual([]);
});
