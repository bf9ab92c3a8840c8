/** What is dragged inside the room: sources, not files. */
const sources = 'application/x-vitrine-sources';

export function drag(transfer: DataTransfer, ids: readonly number[]) {
  transfer.setData(sources, JSON.stringify(ids));
  transfer.effectAllowed = 'move';
}

export const holdsSources = (transfer: DataTransfer) => transfer.types.includes(sources);

/** The sources that were dropped; none when it was something else. */
export const draggedIn = (transfer: DataTransfer): number[] => JSON.parse(transfer.getData(sources) || '[]') as number[];
