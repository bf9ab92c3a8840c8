/** Where a place in a text is after a correction; null when the words around it were changed. */
export function followed(before: string, after: string, at: number): number | null {
  const most = Math.min(before.length, after.length);
  let start = 0;
  while (start < most && before[start] === after[start]) start++;
  if (at <= start) return at;
  let end = 0;
  while (end < most - start && before[before.length - 1 - end] === after[after.length - 1 - end]) end++;
  return at >= before.length - end ? at + after.length - before.length : null;
}
