/** A list with one thing put in or taken out; undefined when nothing is left of it. */
export function toggled<T>(list: readonly T[] | undefined, one: T): T[] | undefined {
  const next = list?.includes(one) ? list.filter((x) => x !== one) : [...(list ?? []), one];
  return next.length > 0 ? next : undefined;
}

/** Some names in a few words: "Ida and Tom", "Ida and 2 more". */
export const inWords = (names: readonly string[]) => (names.length <= 2 ? names.join(' and ') : `${names[0]} and ${names.length - 1} more`);
