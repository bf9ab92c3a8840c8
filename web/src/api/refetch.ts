import { notifyManager, type Query, type QueryClient } from '@tanstack/react-query';
import { touches, type Changed, type RestsOn } from './restsOn';

declare module '@tanstack/react-query' {
  interface Register {
    queryMeta: { restsOn: RestsOn };
  }
}

/** Steps of one's own whose changes have been fetched: the server tells of them a second time, to everyone. */
const own = new Set<number>();
const mostOwn = 200;

/**
 * Fetches again what some changes touch; without them, everything. It is there, and the page has been told of it, when the promise resolves, also
 * where a later change had it fetched once more meanwhile: what was shown in its place till then can go, and nothing older is seen or taken up by a key.
 */
export async function refetch(cache: QueryClient, changes?: readonly Changed[]) {
  const touched = { predicate: ({ meta }: Query) => !changes || !meta || changes.some((changed) => touches(changed, meta.restsOn)) };
  // What is being fetched for the first time may have been read before the change, and is not broken off: it is fetched once more.
  const first = cache.getQueryCache().findAll({ ...touched, fetchStatus: 'fetching', predicate: (q) => q.state.data === undefined && touched.predicate(q) });
  await cache.invalidateQueries(touched);
  if (first.length > 0) {
    await fetched(cache, touched);
    await cache.invalidateQueries({ predicate: (q) => first.includes(q) });
  }
  await fetched(cache, touched);
}

/** When nothing of it is being fetched any more, and the page has been told. */
function fetched(cache: QueryClient, of: { predicate: (query: Query) => boolean }) {
  return new Promise<void>((done) => {
    const look = () => {
      if (cache.isFetching(of) > 0) return;
      stop();
      // Those who show it are told in turn, and this comes after them.
      notifyManager.schedule(done);
    };
    const stop = cache.getQueryCache().subscribe(look);
    look();
  });
}

/** Fetches again what a step of one's own has changed. */
export function refetchAfter(cache: QueryClient, step: { actionId: number | null; changed?: Changed | null }) {
  if (!step.changed) return refetch(cache);
  if (step.actionId !== null) own.add(step.actionId);
  for (const oldest of own) {
    if (own.size <= mostOwn) break;
    own.delete(oldest);
  }
  return refetch(cache, [step.changed]);
}

/** Whether what a step changed has been fetched already. */
export const isFetched = (actionId: number | null) => actionId !== null && own.has(actionId);
