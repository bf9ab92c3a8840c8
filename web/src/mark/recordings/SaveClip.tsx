import { useState } from 'react';

interface Props {
  observationId: number;
  films: boolean;
  sounds: boolean;
  /** There are words to caption it with. */
  captioned: boolean;
}

/** Saves a clip as a file that holds that stretch alone. */
export function SaveClip({ observationId, films, sounds, captioned }: Props) {
  const [handle, setHandle] = useState(false);
  const [burnt, setBurnt] = useState(false);
  const [asReaders, setAsReaders] = useState(true);
  // A mark that waits has no number on the server yet.
  if (observationId < 0) return null;
  const formats = [...(films ? ['mp4', 'webm'] : ['mp4']), ...(sounds ? ['mp3', 'wav'] : [])];
  const address = `/api/observations/${observationId}`;
  const check = 'flex min-h-6 items-center gap-1.5';
  const link = 'min-h-6 text-sky hover:underline';
  return (
    <div className="mt-2 border-t border-line pt-2 text-[12px] text-ink-soft">
      <p className="flex flex-wrap gap-x-2.5">
        Save the clip as
        {formats.map((format) => (
          <a
            key={format}
            download
            href={`${address}/cutout?format=${format}&handleMs=${handle && !asReaders ? 1000 : 0}&captioned=${burnt}&asReaders=${asReaders}`}
            className={link}
          >
            .{format === 'mp4' && !films ? 'm4a' : format}
          </a>
        ))}
        {captioned && (
          <a download={`clip ${observationId}.vtt`} href={`${address}/captions?asReaders=${asReaders}`} className={link}>
            captions
          </a>
        )}
      </p>
      <label className={check}>
        <input type="checkbox" checked={asReaders} onChange={(e) => setAsReaders(e.target.checked)} className="accent-verdigris" />
        protected, as readers outside the team get it
      </label>
      {films && captioned && (
        <label className={check}>
          <input type="checkbox" checked={burnt} onChange={(e) => setBurnt(e.target.checked)} className="accent-verdigris" />
          with captions written into the film
        </label>
      )}
      {!asReaders && (
        <label className={check}>
          <input type="checkbox" checked={handle} onChange={(e) => setHandle(e.target.checked)} className="accent-verdigris" />
          with a second more on both sides
        </label>
      )}
    </div>
  );
}
