import { useQueryClient } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { api, ask } from '@/api/client';
import { outgoing } from '@/api/waiting/outgoing';

/** Leaves the workspace, here or everywhere. What waits to be sent stays in the browser for its person. */
export function useLeaving() {
  const cache = useQueryClient();
  const navigate = useNavigate();
  return (everywhere: boolean) =>
    void ask(everywhere ? api.POST('/api/me/sign-out-everywhere') : api.POST('/api/sign-out')).then(() => {
      outgoing.end();
      cache.clear();
      return navigate({ to: '/sign-in' });
    });
}
