import { useEffect, useRef, useState, type PointerEvent, type ReactNode } from 'react';

interface Props {
  /** What the frame touches, by its `data-lasso`; `adds` to what was chosen when it began. Called when that changes. */
  onTouch: (touched: readonly string[], adds: boolean) => void;
  onBegin: () => void;
  className: string;
  children: ReactNode;
}

interface Frame {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** What is no empty ground: a frame that begins on it would take a click from it. */
const taken = '[data-lasso], [data-theme], button, a, input, select, textarea, label, h2, h3, [role="tablist"]';
/** So far the pointer goes before it is a frame and no click, in pixels. */
const least = 5;

/** On empty ground the mouse draws a frame, and chooses what it touches. */
export function Lasso({ onTouch, onBegin, className, children }: Props) {
  const ground = useRef<HTMLDivElement>(null);
  const [frame, setFrame] = useState<Frame | null>(null);
  const stop = useRef<(() => void) | null>(null);
  useEffect(() => () => stop.current?.(), []);
  const begin = (event: PointerEvent) => {
    const { clientX: x, clientY: y, shiftKey, button, pointerType, target } = event;
    if (button !== 0 || pointerType === 'touch' || (target as HTMLElement).closest(taken) || !ground.current?.contains(target as Node)) return;
    // On the bar of a scrolling list the mouse scrolls.
    const { clientWidth, clientHeight } = target as HTMLElement;
    const within = (target as HTMLElement).getBoundingClientRect();
    if (x > within.left + clientWidth || y > within.top + clientHeight) return;
    let drawn = false;
    let last = '';
    const move = (to: globalThis.PointerEvent) => {
      if (!drawn && Math.hypot(to.clientX - x, to.clientY - y) < least) return;
      if (!drawn) onBegin();
      drawn = true;
      to.preventDefault();
      const now = { left: Math.min(x, to.clientX), top: Math.min(y, to.clientY), right: Math.max(x, to.clientX), bottom: Math.max(y, to.clientY) };
      setFrame(now);
      const touched = [...ground.current!.querySelectorAll<HTMLElement>('[data-lasso]')].filter((el) => {
        const at = el.getBoundingClientRect();
        return at.left < now.right && at.right > now.left && at.top < now.bottom && at.bottom > now.top;
      });
      const names = touched.map((el) => el.dataset['lasso']!);
      if (names.join() === last) return;
      last = names.join();
      onTouch(names, shiftKey);
    };
    stop.current = () => {
      removeEventListener('pointermove', move);
      removeEventListener('pointerup', end);
      removeEventListener('pointercancel', end);
    };
    const end = () => {
      stop.current?.();
      setFrame(null);
    };
    addEventListener('pointermove', move);
    addEventListener('pointerup', end);
    addEventListener('pointercancel', end);
  };
  return (
    <div ref={ground} className={`${className} ${frame ? 'select-none' : ''}`} onPointerDown={begin}>
      {children}
      {frame && (
        <div
          aria-hidden
          className="pointer-events-none fixed z-30 rounded-[3px] border border-dashed border-verdigris bg-verdigris/10"
          style={{ left: frame.left, top: frame.top, width: frame.right - frame.left, height: frame.bottom - frame.top }}
        />
      )}
    </div>
  );
}
