/** Two versions of some words, each cut into what is the same before, what differs, and what is the same after; cut between words. */
export function differing(old: string, now: string): { old: [string, string, string]; now: [string, string, string] } {
  const [a, b] = [pieces(old), pieces(now)];
  let head = 0;
  while (head < Math.min(a.length, b.length) && a[head] === b[head]) head++;
  let tail = 0;
  while (tail < Math.min(a.length, b.length) - head && a[a.length - 1 - tail] === b[b.length - 1 - tail]) tail++;
  const cut = (all: string[]): [string, string, string] => [
    all.slice(0, head).join(''),
    all.slice(head, all.length - tail).join(''),
    all.slice(all.length - tail).join(''),
  ];
  return { old: cut(a), now: cut(b) };
}

const pieces = (text: string) => text.match(/\s+|[\p{L}\p{M}\p{N}]+|[^\s]/gu) ?? [];
