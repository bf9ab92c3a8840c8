import { QueryClient } from '@tanstack/react-query';
import { describe, expect, it } from 'vitest';
import { markTables, refetch } from './refetch';

const stale = async (tables?: string[]) => {
  const cache = new QueryClient();
  const keys = [['me'], ['source', 4], ['participants', 3], ['observations', 4], ['tags', 3]];
  for (const key of keys) cache.setQueryData(key, 'x');
  await refetch(cache, tables);
  return keys.filter((key) => cache.getQueryState(key)!.isInvalidated).map((key) => key[0]);
};

describe('what a write makes old', () => {
  it('is everything when nobody knows what it touched', async () => expect(await stale()).toEqual(['me', 'source', 'participants', 'observations', 'tags']));
  it('is not the text and the people for a mark', async () => expect(await stale(markTables)).toEqual(['observations', 'tags']));
  it('is the text when a speaker is matched, and the people when an attribute is set', async () => {
    expect(await stale(['speaker'])).toContain('source');
    expect(await stale(['attribute_value'])).toContain('participants');
  });
});
