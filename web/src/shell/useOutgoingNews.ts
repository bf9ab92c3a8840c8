import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { toast } from 'sonner';
import { markTables, refetch } from '@/api/refetch';
import { outgoing } from '@/api/waiting/outgoing';

/** Sends what waits for the person who is signed in; fetches what came of it, and says what was refused. */
export function useOutgoingNews(accountId: number | undefined) {
  const cache = useQueryClient();
  useEffect(() => {
    const acknowledged = outgoing.onAcknowledged((write) => refetch(cache, write.text ? undefined : (write.tables ?? markTables)));
    const refused = outgoing.onRefused((write, problem) => void toast.error(`${write.what}: ${problem.message}`));
    return () => {
      acknowledged();
      refused();
    };
  }, [cache]);
  useEffect(() => {
    if (accountId !== undefined) void outgoing.begin(accountId);
  }, [accountId]);
}
