import { useEffect } from 'react';
import { typing } from '@/parts/typing';

interface Given {
  onStep: (by: -1 | 1) => void;
  onBeside: () => void;
  /** Both shelves away, or back. */
  onFocusMode: () => void;
}

const toShowBar = () => document.querySelector<HTMLElement>('[aria-label="What is shown"] button')?.focus();

/** Keys that go from source to source, wherever the focus is on the page. */
export function useSourceKeys({ onStep, onBeside, onFocusMode }: Given) {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || typing(event.target)) return;
      if ((event.target as Element).closest?.('[role="dialog"]')) return;
      const act = { '}': () => onStep(1), '{': () => onStep(-1), b: onBeside, f: toShowBar, z: onFocusMode }[event.key];
      if (!act) return;
      event.preventDefault();
      act();
    };
    document.addEventListener('keydown', listen);
    return () => document.removeEventListener('keydown', listen);
  }, [onStep, onBeside, onFocusMode]);
}
