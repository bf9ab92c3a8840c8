import type { TimeRange } from '@/mark/observations/place';

export const rates = [0.25, 0.5, 0.75, 1, 1.25, 1.5, 2, 2.5, 3] as const;

/** What of the playing the page shows. Where it is, is none of it: what follows the position is told, and draws for itself. */
export interface Playing {
  playing: boolean;
  rate: number;
  /** What is played again and again. */
  loop: TimeRange | null;
}

/** What of an element of sound or film is needed. */
type Media = Pick<HTMLMediaElement, 'currentTime' | 'duration' | 'paused' | 'playbackRate' | 'play' | 'pause' | 'addEventListener' | 'removeEventListener'>;

/** Plays the element that it is given. */
export function makePlayer() {
  let media: Media | null = null;
  let now: Playing = { playing: false, rate: 1, loop: null };
  let until: number | null = null;
  let frame = 0;
  const followers = new Set<(ms: number) => void>();
  const watchers = new Set<() => void>();
  const change = (to: Partial<Playing>) => {
    now = { ...now, ...to };
    watchers.forEach((told) => told());
  };
  const position = () => (media?.currentTime ?? 0) * 1000;
  const tell = () => {
    if (!media) return;
    const at = position();
    if (now.loop && !media.paused && (at >= now.loop.endMs || at < now.loop.beginMs - 50)) media.currentTime = now.loop.beginMs / 1000;
    else if (until !== null && at >= until) {
      until = null;
      media.pause();
    }
    followers.forEach((told) => told(position()));
  };
  const run = () => {
    tell();
    frame = requestAnimationFrame(run);
  };
  const events = {
    play: () => {
      change({ playing: true });
      cancelAnimationFrame(frame);
      run();
    },
    pause: () => {
      change({ playing: false });
      cancelAnimationFrame(frame);
      tell();
    },
    ended: () => change({ playing: false }),
    seeked: tell,
    timeupdate: tell,
  };
  const start = () => void media?.play().catch(() => change({ playing: false }));
  const seek = (ms: number) => {
    if (!media) return;
    until = null;
    const end = Number.isFinite(media.duration) ? media.duration * 1000 : Infinity;
    const at = Math.max(0, Math.min(end, ms));
    media.currentTime = at / 1000;
    // The page follows at once, and the picture when it is there.
    followers.forEach((told) => told(at));
  };
  const setRate = (rate: number) => {
    if (media) media.playbackRate = rate;
    change({ rate });
  };
  return {
    /** Takes an element, or lets it go. */
    attach: (element: Media | null) => {
      for (const [name, act] of Object.entries(events)) media?.removeEventListener(name, act);
      cancelAnimationFrame(frame);
      media = element;
      for (const [name, act] of Object.entries(events)) media?.addEventListener(name, act);
    },
    watch: (told: () => void) => {
      watchers.add(told);
      return () => void watchers.delete(told);
    },
    playing: () => now,
    /** The playing position in milliseconds. */
    now: position,
    seek,
    skip: (ms: number) => seek(position() + ms),
    toggle: () => {
      until = null;
      if (media?.paused) start();
      else media?.pause();
    },
    pause: () => media?.pause(),
    /** Plays on from where it is. */
    goOn: () => {
      until = null;
      start();
    },
    /** Plays a range of it and stops at its end. */
    play: ({ beginMs, endMs }: TimeRange) => {
      seek(beginMs);
      until = now.loop ? null : endMs;
      start();
    },
    setRate,
    faster: (steps: 1 | -1) => {
      const at = rates.findIndex((r) => r >= now.rate);
      setRate(rates[Math.max(0, Math.min(rates.length - 1, at + steps))]!);
    },
    setLoop: (loop: TimeRange | null) => change({ loop }),
    /** Is called with the position whenever it moves, at most once a frame. Call what it returns to be left alone. */
    onMove: (told: (ms: number) => void) => {
      followers.add(told);
      told(position());
      return () => void followers.delete(told);
    },
  };
}
