interface Result {
  sourceId: number;
  participantId: number | null;
}

/** What is said above a result: the source or the person, where another one begins. */
export function headingOf<T extends Result>(
  results: readonly T[],
  i: number,
  groupBy: 'person' | undefined,
  title: (result: T) => string,
  who: (participantId: number | null) => string,
): string | undefined {
  const [before, here] = [results[i - 1], results[i]!];
  if (groupBy) return before && before.participantId === here.participantId ? undefined : who(here.participantId);
  return before?.sourceId === here.sourceId ? undefined : title(here);
}
