interface Props {
  onTag: () => void;
  onNote: () => void;
  onPutIn: () => void;
}

const part = 'min-h-11 px-4 text-[14px] font-medium active:bg-wash';

/** What can be done with words that were selected by touch, where keys have their place otherwise. */
export function TouchBar({ onTag, onNote, onPutIn }: Props) {
  return (
    <div
      role="toolbar"
      aria-label="Selected words"
      className="flex divide-x divide-line rounded-std border border-line bg-case shadow-float"
      onMouseUp={(e) => e.stopPropagation()}
    >
      <button type="button" className={`${part} text-verdigris`} onClick={onTag}>
        Tag
      </button>
      <button type="button" className={part} onClick={onNote}>
        Margin note
      </button>
      <button type="button" className={part} onClick={onPutIn}>
        Theme or insight
      </button>
    </div>
  );
}
