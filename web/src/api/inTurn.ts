let last: Promise<unknown> = Promise.resolve();

/** Does things one after the other, however fast they are asked for: a redo right after an undo is meant for what that has undone. */
export function inTurn<T>(task: () => Promise<T>): Promise<T> {
  const mine = last.then(task, task);
  last = mine;
  return mine;
}
