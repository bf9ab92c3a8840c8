import { usePageKeys } from '@/parts/usePageKeys';

interface Given {
  onStep: (by: -1 | 1) => void;
  onBeside: () => void;
  /** Both shelves away, or back. */
  onFocusMode: () => void;
}

const toShowBar = () => document.querySelector<HTMLElement>('[aria-label="What is shown"] button')?.focus();

/** Keys that go from source to source, wherever the focus is on the page. */
export function useSourceKeys({ onStep, onBeside, onFocusMode }: Given) {
  usePageKeys({ '}': () => onStep(1), '{': () => onStep(-1), b: onBeside, f: toShowBar, z: onFocusMode });
}
