import { Button, Key } from '@/parts/Button';

interface Props {
  /** The words that the observation stood on. */
  words: string;
  /** Some words are selected. */
  able: boolean;
  onPut: () => void;
  onLeave: () => void;
}

/** Above the text while an observation looks for its place after a correction. */
export function PuttingBar({ words, able, onPut, onLeave }: Props) {
  return (
    <div role="status" className="sticky top-0 z-20 mx-auto flex max-w-[900px] items-center gap-3 border-b border-line bg-brass-wash px-4 py-2 text-[13px]">
      <p className="line-clamp-2 min-w-0 flex-1">
        Select the words on which the observation “{words}” belongs now. <Key>Enter</Key> puts it there.
      </p>
      <Button look="main" disabled={!able} onClick={onPut}>
        Put it here
      </Button>
      <Button look="quiet" onClick={onLeave}>
        Not now
      </Button>
    </div>
  );
}
