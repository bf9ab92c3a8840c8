import { useEffect, useState } from 'react';

/** What was typed, once the typing has paused for so many milliseconds. */
export function useSettled(typed: string, pause: number): string {
  const [settled, setSettled] = useState(typed);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(typed), pause);
    return () => clearTimeout(timer);
  }, [typed, pause]);
  return settled;
}
