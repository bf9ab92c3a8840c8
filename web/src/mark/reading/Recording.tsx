import { addressOf, KeptFile } from './KeptFile';
import type { MaterialProps } from './material';

/** Sound or film. */
export function Recording({ source }: MaterialProps) {
  const { title, mediaType } = source.line;
  const [address, film] = [addressOf(source), mediaType?.startsWith('video/')];
  return (
    <KeptFile source={source}>
      {film ? (
        <video controls preload="metadata" src={address} aria-label={title} className="max-h-[65vh] w-full rounded-std bg-ink" />
      ) : (
        <audio controls preload="metadata" src={address} aria-label={title} className="w-full" />
      )}
    </KeptFile>
  );
}
