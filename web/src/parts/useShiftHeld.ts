import { useEffect, useRef } from 'react';

/** Whether Shift is held right now, also while something is dragged. */
export function useShiftHeld() {
  const held = useRef(false);
  useEffect(() => {
    const follow = (event: { shiftKey: boolean }) => {
      held.current = event.shiftKey;
    };
    window.addEventListener('pointermove', follow, { capture: true });
    window.addEventListener('keydown', follow, { capture: true });
    window.addEventListener('keyup', follow, { capture: true });
    return () => {
      window.removeEventListener('pointermove', follow, { capture: true });
      window.removeEventListener('keydown', follow, { capture: true });
      window.removeEventListener('keyup', follow, { capture: true });
    };
  }, []);
  return held;
}
