import { Play } from 'lucide-react';
import { useState } from 'react';
import type { Schemas } from '@/api/client';
import { clock } from './words';

export type CutOut = Pick<Schemas['Quote'], 'observationId' | 'anchor' | 'mediaType' | 'sourceTitle'>;

/** The part of a recording or picture on which an observation stands, or in which its words are heard: that part alone, and nothing else of it. */
export function Cutout({ quote }: { quote: CutOut }) {
  const [open, setOpen] = useState(false);
  const { anchor } = quote;
  const address = `/api/observations/${quote.observationId}/cutout`;
  if (anchor.kind === 'region')
    return <img src={address} alt={`A part of ${quote.sourceTitle}`} className="max-h-36 max-w-full rounded-[2px] border border-line" />;
  const film = quote.mediaType?.startsWith('video/') ?? false;
  if (open)
    return (
      <video controls autoPlay src={address} aria-label={`Clip of ${quote.sourceTitle}`} className={film ? 'h-52 max-w-full' : 'h-12 w-[320px] max-w-full'} />
    );
  const words = anchor.kind === 'text';
  return (
    <button
      type="button"
      className={
        words
          ? 'inline-flex min-h-6 items-center gap-1 font-use text-[12px] text-sky hover:underline'
          : 'inline-flex min-h-8 items-center gap-2 rounded-std border border-line bg-case px-2.5 font-use text-[13px] hover:bg-wash'
      }
      onClick={(e) => {
        e.stopPropagation();
        setOpen(true);
      }}
    >
      <Play aria-hidden className={words ? 'size-3' : 'size-3.5'} />
      {anchor.kind === 'time' ? `${film ? 'Film' : 'Sound'}, ${clock(anchor.beginMs)} to ${clock(anchor.endMs)}` : film ? 'see it said' : 'hear it'}
    </button>
  );
}
