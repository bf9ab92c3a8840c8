import { useEffect, useRef } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import type { Player } from './usePlayer';

/** How far the second may be from the first before it is set anew, in milliseconds. */
const drift = 120;

interface Props {
  /** The recording that is open. */
  first: Schemas['SourceLine'];
  /** Another one of the same session. */
  second: Schemas['SourceLine'];
  player: Player;
  /** Whether its sound is heard, in the place of the first one's. */
  heard: boolean;
  onHeard: (heard: boolean) => void;
}

/** A second recording of the same session, such as the screen beside the camera: it plays on the clock of the first. */
export function Beside({ first, second, player, heard, onHeard }: Props) {
  const element = useRef<HTMLVideoElement>(null);
  const { onMove, playing, rate } = player;
  const apart = first.offsetMs - second.offsetMs;
  useEffect(
    () =>
      onMove((ms) => {
        const video = element.current;
        if (!video || video.seeking) return;
        const own = ms + apart;
        const there = own >= 0 && (second.lengthMs === null || own <= second.lengthMs);
        if (!playing || !there) video.pause();
        else if (video.paused) void video.play().catch(() => undefined);
        if (there && Math.abs(video.currentTime * 1000 - own) > (playing ? drift : 1)) video.currentTime = own / 1000;
      }),
    [onMove, apart, playing, second.lengthMs],
  );
  useEffect(() => {
    if (element.current) element.current.playbackRate = rate;
  }, [rate]);
  const lineUp = useWrite((by: number) =>
    ask(api.PUT('/api/sources/{id}/offset', { params: { path: { id: second.id } }, body: { offsetMs: second.offsetMs + by } })),
  );
  const small = 'grid size-6 place-items-center rounded-std hover:bg-wash';
  return (
    <figure className="flex min-h-0 min-w-0 flex-col" aria-label={`Beside it: ${second.title}`}>
      <video
        ref={element}
        preload="auto"
        muted={!heard}
        src={`/api/sources/${second.id}/media`}
        aria-label={second.title}
        className="min-h-0 w-full flex-1 object-contain"
      />
      <figcaption className="flex min-h-7 items-center gap-1 text-[12px] text-ink-soft">
        <span className="truncate" title={second.title}>
          {second.title}
        </span>
        <button type="button" aria-pressed={heard} className="ml-auto min-h-6 shrink-0 rounded-std px-1.5 hover:bg-wash" onClick={() => onHeard(!heard)}>
          {heard ? 'is heard' : 'hear it'}
        </button>
        <button type="button" className={small} aria-label="It is 0.1 s earlier" onClick={() => lineUp.mutate(-100)}>
          −
        </button>
        <span className="shrink-0 tabular-nums">{(second.offsetMs / 1000).toFixed(1)} s</span>
        <button type="button" className={small} aria-label="It is 0.1 s later" onClick={() => lineUp.mutate(100)}>
          +
        </button>
      </figcaption>
    </figure>
  );
}
