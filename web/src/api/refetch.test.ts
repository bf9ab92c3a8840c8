import { notifyManager, QueryClient, QueryObserver } from '@tanstack/react-query';
import { expect, it, vi } from 'vitest';
import { refetch } from './refetch';

/** Something that is shown, and answered when the test says so. */
function shown() {
  const cache = new QueryClient();
  const answers: ((value: string) => void)[] = [];
  const observer = new QueryObserver(cache, {
    queryKey: ['one'],
    queryFn: () => new Promise<string>((done) => answers.push(done)),
    meta: { restsOn: { tables: ['observation'] } },
  });
  const leave = observer.subscribe(() => undefined);
  return { cache, answers, leave };
}

it('is done when what was fetched once more meanwhile is there', async () => {
  const { cache, answers, leave } = shown();
  answers[0]!('first');
  await vi.waitFor(() => expect(cache.getQueryData(['one'])).toBe('first'));
  let fetched = false;
  void refetch(cache).then(() => (fetched = true));
  await vi.waitFor(() => expect(answers).toHaveLength(2));
  void refetch(cache);
  await vi.waitFor(() => expect(answers).toHaveLength(3));
  answers[1]!('left behind');
  await new Promise((soon) => setTimeout(soon));
  expect(fetched).toBe(false);
  answers[2]!('newest');
  await vi.waitFor(() => expect(fetched).toBe(true));
  expect(cache.getQueryData(['one'])).toBe('newest');
  leave();
});

it('is done when those who show it have been told', async () => {
  const cache = new QueryClient();
  let [answered, shown] = [0, 0];
  const observer = new QueryObserver(cache, { queryKey: ['one'], queryFn: () => Promise.resolve(++answered), meta: { restsOn: { tables: ['observation'] } } });
  // As the page itself is told.
  const leave = observer.subscribe(notifyManager.batchCalls((result: { data?: number | undefined }) => (shown = result.data ?? 0)));
  await vi.waitFor(() => expect(shown).toBe(1));
  await refetch(cache);
  expect(shown).toBe(2);
  leave();
});

it('fetches once more what was being fetched for the first time when it changed', async () => {
  const { cache, answers, leave } = shown();
  let fetched = false;
  void refetch(cache).then(() => (fetched = true));
  answers[0]!('read before the change');
  await vi.waitFor(() => expect(answers).toHaveLength(2));
  expect(fetched).toBe(false);
  answers[1]!('newest');
  await vi.waitFor(() => expect(fetched).toBe(true));
  expect(cache.getQueryData(['one'])).toBe('newest');
  leave();
});
