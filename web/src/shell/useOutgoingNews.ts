import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { toast } from 'sonner';
import { refetchAfter } from '@/api/refetch';
import { outgoing } from '@/api/waiting/outgoing';

/** Sends what waits for the person who is signed in; fetches what came of it, and says what was refused. */
export function useOutgoingNews(accountId: number | undefined) {
  const cache = useQueryClient();
  useEffect(() => {
    const acknowledged = outgoing.onAcknowledged((_write, step) => refetchAfter(cache, step));
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
