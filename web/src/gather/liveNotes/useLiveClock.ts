import { useEffect, useState } from 'react';
import type { Schemas } from '@/api/client';

/** The clock of running notes: milliseconds since they began by the server's time, whatever the browser's own clock says. It stands when the notes have ended. */
export function useLiveClock(notes: Schemas['NotesOfSession'], fetchedAt: number) {
  const begun = Date.parse(notes.begunAt);
  // Taken once: a later answer that was slower on its way would set the clock back.
  const [skew] = useState(Date.parse(notes.now) - fetchedAt);
  const ended = notes.endedAt ? Date.parse(notes.endedAt) - begun : null;
  const [shown, show] = useState(Math.max(0, Date.parse(notes.now) - begun));
  useEffect(() => {
    if (ended !== null) return;
    const timer = setInterval(() => show(Math.max(0, Date.now() + skew - begun)), 250);
    return () => clearInterval(timer);
  }, [ended, begun, skew]);
  return { shown: ended ?? shown, now: () => Math.max(0, Date.now() + skew - begun) };
}
