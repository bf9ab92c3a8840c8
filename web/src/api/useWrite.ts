import { useMutation, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { toast } from 'sonner';
import { api, ask, Refusal, type Step } from './client';
import { inTurn } from './inTurn';
import { refetch, refetchAfter } from './refetch';
import { outgoing } from './waiting/outgoing';

/** When every write that this page has on its way is answered: a key pressed meanwhile is meant for the last of them. */
export function answered(cache: QueryClient) {
  return new Promise<void>((done) => {
    const look = () => {
      if (cache.isMutating() > 0) return;
      stop();
      done();
    };
    const stop = cache.getMutationCache().subscribe(look);
    look();
  });
}

/** Undo, redo, and everything fetched again afterwards. */
export function useSteps() {
  const cache = useQueryClient();
  const run = useCallback(
    async (request: () => Promise<Step>) => {
      try {
        await Promise.all([outgoing.acknowledged(), answered(cache)]);
        const step = await inTurn(request);
        toast(step.label);
        await refetchAfter(cache, step);
      } catch (problem) {
        toast.error((problem as Error).message);
        await refetch(cache);
      }
    },
    [cache],
  );
  return {
    /** Takes back the person's latest step, wherever it was made, or a certain one; a step that still waits to be sent is just not sent. */
    undo: useCallback(
      async (studyId: number | null, actionId: number | null = null) => {
        const unsent = actionId === null ? await outgoing.takeBack() : null;
        if (unsent !== null) return void toast(`Undone before it was sent: ${unsent}`);
        await run(() => ask(api.POST('/api/undo', { body: { studyId, actionId, anywhere: true } })));
      },
      [run],
    ),
    redo: useCallback((studyId: number | null) => run(() => ask(api.POST('/api/redo', { body: { studyId, actionId: null, anywhere: true } }))), [run]),
  };
}

interface Say {
  /** Says what was done, with undo beside it. */
  quiet?: boolean;
  /** A form shows the refusal itself. */
  own?: boolean;
}

/** One write: what it changed is fetched again, its step can be undone where it happened, and a refusal is said in its own words. */
export function useWrite<A, R extends Step | { step: Step }>(write: (given: A) => Promise<R>, say: Say = {}) {
  const cache = useQueryClient();
  const { undo } = useSteps();
  return useMutation<R, Refusal, A>({
    mutationFn: write,
    onSuccess: (result) => {
      const step: Step = 'step' in result ? result.step : (result as Step);
      if (!say.quiet && step.actionId !== null) {
        toast(step.label, { action: { label: 'Undo', onClick: () => void undo(null, step.actionId) } });
      }
      return refetchAfter(cache, step);
    },
    onError: (problem) => {
      if (!say.own) toast.error(problem.message);
    },
  });
}
