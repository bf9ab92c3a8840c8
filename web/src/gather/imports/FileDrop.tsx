import { useState, type DragEvent, type ReactNode } from 'react';
import { filesIn } from './sending';

/** A page of the room onto which files and folders can be dropped anywhere. */
export function FileDrop({ onFiles, children }: { onFiles: (files: readonly File[]) => void; children: ReactNode }) {
  const [over, setOver] = useState(false);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void filesIn(event.dataTransfer).then(onFiles);
  };
  return (
    <div
      data-scrolls
      className={`h-full overflow-y-auto ${over ? 'bg-wash outline-2 -outline-offset-8 outline-verdigris outline-dashed' : ''}`}
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes('Files')) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
      onDrop={drop}
    >
      <div className="mx-auto max-w-[1240px] px-5 py-6">{children}</div>
    </div>
  );
}
