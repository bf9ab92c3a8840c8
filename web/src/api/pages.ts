/** The number of the page after those that are there; undefined when they hold all. */
export function nextPage(total: number, sizes: readonly number[]) {
  return sizes.at(-1)! > 0 && sizes.reduce((n, size) => n + size, 0) < total ? sizes.length : undefined;
}

/** The whole of a list that comes in pages: every room reads the names of sources and people. */
export async function whole<P extends { total: number }, R>(page: (n: number) => Promise<P>, rows: (page: P) => readonly R[]) {
  const first = await page(0);
  const all = [...rows(first)];
  for (let n = 1, size = all.length; size > 0 && all.length < first.total; n++) {
    const next = rows(await page(n));
    all.push(...next);
    size = next.length;
  }
  return { first, all };
}
