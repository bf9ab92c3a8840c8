import { usePageKeys } from '@/parts/usePageKeys';

interface Given {
  onStep: (by: -1 | 1) => void;
  onBeside: () => void;
  /** Both shelves away, or back. */
  onFocusMode: () => void;
  /** Whether both are away. */
  away: boolean;
}

const toShowBar = () => document.querySelector<HTMLElement>('[aria-label="What is shown"] button')?.focus();

/** Keys that go from source to source, wherever the focus is on the page. */
export function useSourceKeys({ onStep, onBeside, onFocusMode, away }: Given) {
  usePageKeys({ '}': () => onStep(1), '{': () => onStep(-1), b: onBeside, f: toShowBar, z: onFocusMode, Escape: away && onFocusMode });
}
