import { useEffect, useLayoutEffect, useRef, useState, type PointerEvent, type ReactNode } from 'react';
import type { TimeRange } from '@/mark/observations/place';
import type { Edge } from './deskState';
import { usePeaks } from './usePeaks';
import type { Player } from './usePlayer';
import { following, momentIn, ruled, snapped, within, zoomed, type View } from './view';

interface Props {
  sourceId: number;
  length: number;
  player: Player;
  view: View;
  onView: (view: View) => void;
  /** What is selected, or the focused clip. */
  chosen: TimeRange | null;
  /** Its edges can be dragged: it does not stand in words. */
  movable: boolean;
  /** The edge that keys move. */
  edge: Edge;
  /** Where the beginning was set by key and the end is to come. */
  begun: number | null;
  pauses: readonly TimeRange[];
  /** How many times as tall it is drawn. */
  loudness: number;
  /** Moments at which the picture changes. */
  scenes: readonly number[];
  /** A range was drawn on the wave. */
  onDraw: (time: TimeRange) => void;
  /** An edge was dragged to another place. */
  onEdge: (edge: Edge, at: number) => void;
  /** What hangs under the wave. */
  children: (width: number) => ReactNode;
}

const height = 104;
/** Bars of the wave and the gap between them, in pixels. */
const [bar, gap] = [2, 1];
/** How near a pause catches an edge, in pixels. */
const catches = 9;

const drawnTo = (from: number, to: number): TimeRange => ({ beginMs: Math.min(from, to), endMs: Math.max(from, to) });

/** The wave of a recording as ink on paper, with its ruler and the playing position. Wheel zooms, Shift and wheel scrolls, a drag selects. */
export function Wave({ sourceId, length, player, view, onView, chosen, movable, edge, begun, pauses, loudness, scenes, onDraw, onEdge, children }: Props) {
  const root = useRef<HTMLDivElement>(null);
  const [heard, ahead] = [useRef<HTMLCanvasElement>(null), useRef<HTMLCanvasElement>(null)];
  const [needle, past] = [useRef<HTMLDivElement>(null), useRef<HTMLDivElement>(null)];
  const [width, setWidth] = useState(800);
  const [drawn, setDrawn] = useState<TimeRange | null>(null);
  const [moving, setMoving] = useState<{ edge: Edge; at: number } | null>(null);
  const drag = useRef<{ from: number; x: number; edge: Edge | null; draws: boolean } | null>(null);
  const peaks = usePeaks(sourceId, view, width);
  const perPixel = view.span / width;
  const xOf = (ms: number) => (ms - view.from) / perPixel;

  useLayoutEffect(() => {
    const observer = new ResizeObserver(() => root.current && setWidth(Math.max(200, root.current.clientWidth)));
    observer.observe(root.current!);
    setWidth(Math.max(200, root.current!.clientWidth));
    return () => observer.disconnect();
  }, []);

  useLayoutEffect(() => {
    const bars = new Path2D();
    for (let x = 0; x < width; x += bar + gap) {
      const loud = peaks.loudest(view.from + x * perPixel, view.from + (x + bar + gap) * perPixel);
      if (loud === null) continue;
      const tall = Math.max(1.5, Math.min(1, (loudness * loud) / 255) * (height - 6));
      bars.rect(x, (height - tall) / 2, bar, tall);
    }
    const dots = window.devicePixelRatio || 1;
    const [across, down] = [Math.round(width * dots), Math.round(height * dots)];
    for (const canvas of [heard.current, ahead.current]) {
      if (!canvas) continue;
      if (canvas.width !== across || canvas.height !== down) [canvas.width, canvas.height] = [across, down];
      const ink = canvas.getContext('2d')!;
      ink.setTransform(dots, 0, 0, dots, 0, 0);
      ink.clearRect(0, 0, width, height);
      ink.fillStyle = getComputedStyle(canvas).color;
      ink.fill(bars);
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the peaks are told apart by their key
  }, [peaks.key, view, width, perPixel, loudness]);

  const latest = useRef({ view, onView, length, playing: player.playing, width });
  useLayoutEffect(() => {
    latest.current = { view, onView, length, playing: player.playing, width };
  });
  const { onMove } = player;
  useEffect(
    () =>
      onMove((ms) => {
        const now = latest.current;
        const x = ((ms - now.view.from) / now.view.span) * now.width;
        if (needle.current) {
          needle.current.style.transform = `translateX(${x}px)`;
          needle.current.hidden = x < 0 || x > now.width;
        }
        if (past.current) past.current.style.width = `${Math.max(0, Math.min(now.width, x))}px`;
        if (now.playing) {
          const next = following(now.view, ms, now.length);
          if (next !== now.view) now.onView(next);
        }
      }),
    [onMove, view, width], // eslint-disable-line react-hooks/exhaustive-deps -- refs do not change
  );

  useEffect(() => {
    const area = root.current!;
    const turn = (event: WheelEvent) => {
      event.preventDefault();
      const now = latest.current;
      const sideways = event.shiftKey ? event.deltaY || event.deltaX : event.deltaX;
      if (sideways !== 0 && Math.abs(sideways) >= Math.abs(event.shiftKey ? 0 : event.deltaY))
        return now.onView(within({ from: now.view.from + (sideways / now.width) * now.view.span, span: now.view.span }, now.length));
      const at = now.view.from + ((event.clientX - area.getBoundingClientRect().left) / now.width) * now.view.span;
      now.onView(zoomed(now.view, Math.exp(event.deltaY * (event.ctrlKey ? 0.01 : 0.0015)), at, now.length));
    };
    area.addEventListener('wheel', turn, { passive: false });
    return () => area.removeEventListener('wheel', turn);
  }, []);

  const msAt = (event: PointerEvent, free = event.altKey) => {
    const at = Math.round(view.from + (event.clientX - root.current!.getBoundingClientRect().left) * perPixel);
    const inside = Math.max(0, Math.min(length, at));
    return free ? inside : snapped(inside, pauses, catches * perPixel);
  };
  const press = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const edge = (event.target as HTMLElement).closest<HTMLElement>('[data-edge]')?.dataset['edge'];
    drag.current = { from: msAt(event), x: event.clientX, edge: edge === 'start' ? 'beginMs' : edge === 'end' ? 'endMs' : null, draws: false };
  };
  const move = (event: PointerEvent) => {
    const now = drag.current;
    if (!now) return;
    if (now.edge) return setMoving({ edge: now.edge, at: msAt(event) });
    now.draws ||= Math.abs(event.clientX - now.x) >= 4;
    if (now.draws) setDrawn(drawnTo(now.from, msAt(event)));
  };
  const release = (event: PointerEvent) => {
    const now = drag.current;
    drag.current = null;
    setDrawn(null);
    setMoving(null);
    if (!now) return;
    if (now.edge) return onEdge(now.edge, msAt(event));
    // By where it was let go, not by what was drawn last.
    const to = drawnTo(now.from, msAt(event));
    if (now.draws && to.endMs > to.beginMs) onDraw(to);
    else player.seek(msAt(event, true));
  };
  const shown = drawn ?? (chosen && moving ? { ...chosen, [moving.edge]: moving.at } : chosen);
  const { step, at: ticks } = ruled(view, width);
  return (
    <div ref={root} className="relative select-none" data-testid="wave">
      <div className="relative h-6 border-b border-line" aria-hidden>
        {ticks.map((ms) => (
          <span
            key={ms}
            className="absolute bottom-0 border-l border-line pl-1 text-[11.5px] leading-4 whitespace-nowrap text-ink-soft tabular-nums"
            style={{ left: xOf(ms) }}
          >
            {momentIn(ms, step < 1000)}
          </span>
        ))}
        {scenes
          .filter((ms) => ms >= view.from && ms <= view.from + view.span)
          .map((ms) => (
            <span
              key={`scene ${ms}`}
              title="The scene changes"
              className="absolute -bottom-[3px] size-[5px] rotate-45 bg-ink-soft"
              style={{ left: xOf(ms) - 2.5 }}
            />
          ))}
      </div>
      <div
        className="relative cursor-text touch-none"
        style={{ height }}
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={release}
        onPointerCancel={() => {
          drag.current = null;
          setDrawn(null);
          setMoving(null);
        }}
      >
        {shown && shown.endMs > shown.beginMs && (
          <div className="absolute inset-y-0 bg-mark-focus" style={{ left: xOf(shown.beginMs), width: (shown.endMs - shown.beginMs) / perPixel }} />
        )}
        {begun !== null && <div className="absolute inset-y-0 w-px bg-verdigris" style={{ left: xOf(begun) }} />}
        <canvas ref={ahead} className="absolute inset-0 h-full w-full text-ink-soft/45" />
        <div ref={past} className="absolute inset-y-0 left-0 overflow-hidden">
          <canvas ref={heard} className="absolute inset-y-0 left-0 h-full text-ink" style={{ width, maxWidth: 'none' }} />
        </div>
        {movable &&
          shown &&
          (['beginMs', 'endMs'] as const).map((one) => (
            <span
              key={one}
              aria-hidden
              data-edge={one === 'beginMs' ? 'start' : 'end'}
              className="group absolute inset-y-0 z-10 -ml-2 grid w-4 cursor-ew-resize touch-none place-items-center"
              style={{ left: xOf(shown[one]) }}
            >
              <span
                className={`h-full ${one === edge ? 'w-[5px]' : 'w-[3px]'} border-y-2 border-verdigris group-hover:bg-wash ${one === 'beginMs' ? 'border-l-2' : 'border-r-2'}`}
              />
            </span>
          ))}
      </div>
      {children(width)}
      <div ref={needle} aria-hidden className="pointer-events-none absolute top-5 bottom-0 left-0 z-10 w-px bg-sky">
        <span className="absolute -top-1 -left-[4px] size-[9px] rounded-full bg-sky" />
      </div>
    </div>
  );
}
