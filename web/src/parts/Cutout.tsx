import { Play } from 'lucide-react';
import { useState } from 'react';
import type { Schemas } from '@/api/client';
import { clock } from './words';

export type CutOut = Pick<Schemas['Quote'], 'observationId' | 'anchor' | 'mediaType' | 'sourceTitle'>;

interface ClipProps {
  /** Where the part is fetched when somebody asks for it. */
  address: string;
  film: boolean;
  label: string;
  says: string;
  /** It stands beside words and is less than a button. */
  small?: boolean;
}

/** A stretch of a recording that is fetched when somebody wants to see or hear it. */
export function Clip({ address, film, label, says, small = false }: ClipProps) {
  const [open, setOpen] = useState(false);
  if (open)
    return (
      <video controls autoPlay src={address} aria-label={label} className={film ? 'h-52 max-w-full print:hidden' : 'h-12 w-[320px] max-w-full print:hidden'} />
    );
  return (
    <button
      type="button"
      className={
        small
          ? 'inline-flex min-h-6 items-center gap-1 font-use text-[12px] text-sky hover:underline print:hidden'
          : 'inline-flex min-h-8 items-center gap-2 rounded-std border border-line bg-case px-2.5 font-use text-[13px] hover:bg-wash print:hidden'
      }
      onClick={(e) => {
        e.stopPropagation();
        setOpen(true);
      }}
    >
      <Play aria-hidden className={small ? 'size-3' : 'size-3.5'} />
      {says}
    </button>
  );
}

/** The part of a recording or picture on which an observation stands, or in which its words are heard: that part alone, and nothing else of it. */
export function Cutout({ quote }: { quote: CutOut }) {
  const { anchor } = quote;
  const address = `/api/observations/${quote.observationId}/cutout`;
  if (anchor.kind === 'region')
    return <img src={address} alt={`A part of ${quote.sourceTitle}`} className="max-h-36 max-w-full rounded-[2px] border border-line" />;
  const film = quote.mediaType?.startsWith('video/') ?? false;
  const says = anchor.kind === 'time' ? `${film ? 'Film' : 'Sound'}, ${clock(anchor.beginMs)} to ${clock(anchor.endMs)}` : film ? 'see it said' : 'hear it';
  return <Clip address={address} film={film} label={`Clip of ${quote.sourceTitle}`} says={says} small={anchor.kind === 'text'} />;
}
