import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { Refusal } from '@/api/client';

/** Whether what was asked for is there: undefined while nobody knows. */
export const isThere = (found: unknown, problem: Error | null): boolean | undefined => {
  if (problem instanceof Refusal && problem.status === 404) return false;
  return found === undefined ? undefined : true;
};

/** Leaves the page of a thing that was there and is no more: undone, merged or removed, here or by somebody else. */
export function useGone(there: boolean | undefined, leave: () => void) {
  const was = useRef(false);
  useEffect(() => {
    if (there === true) was.current = true;
    if (there !== false || !was.current) return;
    was.current = false;
    toast('What was open here is not there any more.');
    leave();
  }, [there]); // eslint-disable-line react-hooks/exhaustive-deps -- it leaves once, when it goes
}
