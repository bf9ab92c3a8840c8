import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { guide, htmlOf, isGuideName } from './guide';

it('every page of the guide is shown, and has a title', () => {
  const files = readdirSync(join(import.meta.dirname, '../../../../docs/guide')).map((f) => f.replace('.md', ''));
  expect(new Set(guide.map((p) => p.name))).toEqual(new Set(files));
  for (const page of guide) expect(page.title).not.toBe(page.name);
});

it.each(guide)('$name leads only to pages and pictures that are there', (page) => {
  const html = htmlOf(page);
  for (const [, to] of html.matchAll(/href="([^"]*)"/g)) expect(isGuideName(to!.replace('/help/', '')), to).toBe(true);
  expect(html.match(/<img /g)?.length ?? 0).toBe(page.text.match(/!\[/g)?.length ?? 0);
  expect(html).not.toMatch(/src="(https?:)?\/\//);
});
