import { Pause, Play, Repeat } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Key } from '@/parts/Button';
import type { TimeRange } from '@/mark/observations/place';
import { rates } from './player';
import type { Player } from './usePlayer';
import { momentIn, typedTime } from './view';

interface Props {
  player: Player;
  length: number;
  films: boolean;
  sounds: boolean;
  chosen: TimeRange | null;
  /** A time is being typed. */
  going: boolean;
  onGoing: (going: boolean) => void;
  onWhole: () => void;
  onFit: () => void;
  onLoop: () => void;
  onStill: () => void;
  onFrame: (on: boolean) => void;
  loudness: number;
  onLouder: () => void;
  waits: boolean;
  onWaits: (waits: boolean) => void;
}

const quiet = 'inline-flex min-h-7 items-center gap-1 rounded-std px-1.5 hover:bg-wash hover:text-ink';

/** What plays a recording, in one line of words between the picture and the wave. */
export function PlayerBar({
  player,
  length,
  films,
  sounds,
  chosen,
  going,
  onGoing,
  onWhole,
  onFit,
  onLoop,
  onStill,
  onFrame,
  loudness,
  onLouder,
  waits,
  onWaits,
}: Props) {
  const clock = useRef<HTMLSpanElement>(null);
  const [typed, setTyped] = useState('');
  const { onMove } = player;
  useEffect(
    () =>
      onMove((ms) => {
        if (clock.current) clock.current.textContent = momentIn(ms);
      }),
    [onMove, going],
  );
  return (
    <div role="toolbar" aria-label="Playing" className="flex flex-wrap items-center gap-x-1 px-5 py-1.5 text-[13px] text-ink-soft">
      <button
        type="button"
        aria-label={player.playing ? 'Stop' : 'Play'}
        className="grid size-8 place-items-center rounded-std border border-line bg-case text-ink hover:bg-wash"
        title="Space"
        onClick={player.toggle}
      >
        {player.playing ? <Pause aria-hidden className="size-4" /> : <Play aria-hidden className="size-4" />}
      </button>
      {going ? (
        <form
          className="inline-flex items-center gap-1"
          onSubmit={(e) => {
            e.preventDefault();
            const at = typedTime(typed);
            if (at === null) return;
            player.seek(at);
            setTyped('');
            onGoing(false);
          }}
        >
          <input
            autoFocus
            aria-label="Go to this time"
            aria-invalid={typed !== '' && typedTime(typed) === null}
            placeholder="1:15.4"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== 'Escape') return;
              e.stopPropagation();
              onGoing(false);
            }}
            onBlur={() => onGoing(false)}
            className="w-20 rounded-std border border-line bg-case px-1.5 py-0.5 text-ink tabular-nums aria-invalid:border-oxblood"
          />
          of {momentIn(length, false)}
        </form>
      ) : (
        <button type="button" className={`${quiet} tabular-nums`} title="Go to a time (:)" onClick={() => onGoing(true)}>
          <span ref={clock} className="min-w-12 text-right font-semibold text-ink" /> of {momentIn(length, false)}
        </button>
      )}
      <label className="inline-flex items-center gap-1" title="↑ ↓">
        <select
          aria-label="Speed"
          value={player.rate}
          onChange={(e) => player.setRate(Number(e.target.value))}
          className="min-h-7 rounded-std border border-transparent bg-transparent hover:border-line"
        >
          {rates.map((r) => (
            <option key={r} value={r}>
              {r} ×
            </option>
          ))}
        </select>
      </label>
      <button
        type="button"
        aria-pressed={player.loop !== null}
        disabled={!chosen && !player.loop}
        className={`${quiet} disabled:opacity-50 aria-pressed:text-verdigris`}
        onClick={onLoop}
      >
        <Repeat aria-hidden className="size-3.5" /> loop <Key>L</Key>
      </button>
      {films && (
        <>
          <button type="button" className={quiet} onClick={onStill}>
            still <Key>f</Key>
          </button>
          <span className="inline-flex items-center">
            <button type="button" className={quiet} aria-label="One frame back" title="One frame back (K)" onClick={() => onFrame(false)}>
              ‹
            </button>
            frame
            <button type="button" className={quiet} aria-label="One frame forward" title="One frame forward (k)" onClick={() => onFrame(true)}>
              ›
            </button>
          </span>
        </>
      )}
      <label className={`${quiet} cursor-pointer`}>
        <input type="checkbox" checked={waits} onChange={(e) => onWaits(e.target.checked)} className="accent-verdigris" />
        waits while you tag
      </label>
      <span className="ml-auto inline-flex items-center gap-1">
        {chosen && (
          <button type="button" className={quiet} onClick={onFit}>
            fit <Key>W</Key>
          </button>
        )}
        {sounds && (
          <button type="button" className={quiet} title="Draws the wave taller" onClick={onLouder}>
            wave × {loudness} <Key>v</Key>
          </button>
        )}
        <button type="button" className={quiet} onClick={onWhole}>
          whole <Key>w</Key>
        </button>
      </span>
    </div>
  );
}
