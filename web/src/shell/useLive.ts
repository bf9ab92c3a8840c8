import { HubConnectionBuilder, HubConnectionState, LogLevel, type HubConnection } from '@microsoft/signalr';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { queries } from '@/api/queries';
import { isFetched, refetch } from '@/api/refetch';
import type { Changed } from '@/api/restsOn';
import { inHand } from '@/shared/inHand';
import { outgoing } from '@/api/waiting/outgoing';

export interface Present {
  accountId: number;
  name: string;
  /** Observations that they have chosen or drag. */
  inHand: number[];
}

/** Many changes in a moment are fetched once. */
const settle = 120;
/** After this, in ms, a line that did not come about is tried again. */
const retry = 3000;

/** Hears of others' work: what changed is fetched again, and who has the same study open is known. */
export function useLive(studyId: number | null): Present[] {
  const cache = useQueryClient();
  const [present, setPresent] = useState<Present[]>([]);
  const line = useRef<HubConnection>(null);
  const open = useRef(studyId);

  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let over = false;
    let later: ReturnType<typeof setTimeout> | undefined;
    const connection = new HubConnectionBuilder()
      .withUrl('/api/live')
      .withAutomaticReconnect({ nextRetryDelayInMilliseconds: ({ previousRetryCount }) => Math.min(3000, 300 * 2 ** previousRetryCount) })
      .configureLogging(LogLevel.None)
      .build();
    let heard: { changed: Changed; actionId: number | null }[] | undefined = [];
    const fetchAgain = (changed?: Changed, actionId: number | null = null) => {
      heard = changed && heard ? [...heard, { changed, actionId }] : undefined;
      clearTimeout(timer);
      timer = setTimeout(() => {
        // One's own step is often told here before its answer has come, and fetched by that.
        void refetch(
          cache,
          heard?.filter((h) => !isFetched(h.actionId)).map((h) => h.changed),
        );
        heard = [];
      }, settle);
    };
    const say = () => connection.invoke<number>('Open', open.current).finally(inHand.sayAgain);
    connection.on('changed', fetchAgain);
    connection.on('present', (people: Present[]) => {
      setPresent(people);
      inHand.heard(people.filter((p) => p.accountId !== cache.getQueryData(queries.me().queryKey)?.account?.id));
    });
    inHand.through((observationIds) => connection.state === HubConnectionState.Connected && connection.send('Hold', observationIds));
    connection.onreconnecting(() => outgoing.heard('cut'));
    connection.onreconnected(() => {
      outgoing.heard('open');
      void say().catch(() => undefined);
      fetchAgain();
    });
    line.current = connection;
    const missed = (commits: number) => {
      if (commits !== cache.getQueryData(queries.me().queryKey)?.commits) fetchAgain();
    };
    // What was fetched before the line stood may be old already.
    const begin = () => {
      connection
        .start()
        .then(() => say().then(missed, () => undefined))
        .catch(() => {
          if (!over) later = setTimeout(begin, retry);
        });
    };
    begin();
    return () => {
      over = true;
      clearTimeout(timer);
      clearTimeout(later);
      void connection.stop();
    };
  }, [cache]);

  useEffect(() => {
    open.current = studyId;
    if (line.current?.state === HubConnectionState.Connected) void line.current.invoke('Open', studyId).then(inHand.sayAgain, () => undefined);
  }, [studyId]);
  return studyId === null ? [] : present;
}
