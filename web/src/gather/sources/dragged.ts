import { useState, type DragEvent } from 'react';

/** What is dragged inside the room: sources, not files. */
const sources = 'application/x-vitrine-sources';

export function drag(transfer: DataTransfer, ids: readonly number[]) {
  transfer.setData(sources, JSON.stringify(ids));
  transfer.effectAllowed = 'move';
}

/** Takes sources that are dropped onto an element, and tells while some are held over it. */
export function useDropped(onDrop: (sourceIds: number[]) => void) {
  const [over, setOver] = useState(false);
  const ours = (event: DragEvent) => {
    if (!event.dataTransfer.types.includes(sources)) return false;
    event.preventDefault();
    event.stopPropagation();
    return true;
  };
  return {
    over,
    target: {
      onDragOver: (event: DragEvent) => ours(event) && setOver(true),
      onDragLeave: () => setOver(false),
      onDrop: (event: DragEvent) => {
        setOver(false);
        if (ours(event)) onDrop(JSON.parse(event.dataTransfer.getData(sources)) as number[]);
      },
    },
  };
}
