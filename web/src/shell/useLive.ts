import { HubConnectionBuilder, HubConnectionState, LogLevel, type HubConnection } from '@microsoft/signalr';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { refetch } from '@/api/refetch';
import { outgoing } from '@/api/waiting/outgoing';

export interface Present {
  accountId: number;
  name: string;
}

/** Many changes in a moment are fetched once. */
const settle = 120;

/** Hears of others' work: what changed is fetched again, and who has the same study open is known. */
export function useLive(studyId: number | null): Present[] {
  const cache = useQueryClient();
  const [present, setPresent] = useState<Present[]>([]);
  const line = useRef<HubConnection>(null);
  const open = useRef(studyId);

  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const connection = new HubConnectionBuilder()
      .withUrl('/api/live')
      .withAutomaticReconnect({ nextRetryDelayInMilliseconds: ({ previousRetryCount }) => Math.min(3000, 300 * 2 ** previousRetryCount) })
      .configureLogging(LogLevel.None)
      .build();
    let touched: string[] | undefined = [];
    const fetchAgain = (_studyId?: number | null, tables?: string[]) => {
      touched = tables && touched ? [...touched, ...tables] : undefined;
      clearTimeout(timer);
      timer = setTimeout(() => {
        void refetch(cache, touched);
        touched = [];
      }, settle);
    };
    const say = () => void connection.invoke('Open', open.current).catch(() => undefined);
    connection.on('changed', fetchAgain);
    connection.on('present', setPresent);
    connection.onreconnecting(() => outgoing.heard('cut'));
    connection.onreconnected(() => {
      outgoing.heard('open');
      say();
      fetchAgain();
    });
    line.current = connection;
    void connection.start().then(say, () => undefined);
    return () => {
      clearTimeout(timer);
      void connection.stop();
    };
  }, [cache]);

  useEffect(() => {
    open.current = studyId;
    if (line.current?.state === HubConnectionState.Connected) void line.current.invoke('Open', studyId).catch(() => undefined);
  }, [studyId]);
  return studyId === null ? [] : present;
}
