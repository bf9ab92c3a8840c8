import type { Schemas } from '@/api/client';
import { count } from '@/parts/words';

type Group = Schemas['WhoNextGroup'];

/** A group by what its people share: "home: Skelda", "home: Skelda, boards: with a pram". */
export const groupWords = ({ values }: Pick<Group, 'values'>) => values.map((v) => `${v.attribute}: ${v.value}`).join(', ');

/** How many of a group were heard; of a combination, why nobody is worth a word. */
export function heardWords({ heard, people, expected }: Pick<Group, 'heard' | 'people' | 'expected'>): string {
  const many = people === 0 ? 'nobody in the study' : `${heard === 0 ? 'none' : heard} of ${people} heard`;
  return expected === null ? many : `${many}; about ${expected.toFixed(1)} were to be expected if the two had nothing to do with each other`;
}

/** What the last sessions have brought against the first, in a sentence. */
export function runWords(run: Schemas['LastRun'] | null): string {
  if (!run) return 'It takes six sessions that are marked to say whether new things still come.';
  const share = Math.round(run.share * 100);
  const brought = `The last ${run.run} brought ${count(run.newTags, 'new tag')}; the first ${run.base} had ${run.baseTags}. That is ${share} %`;
  return run.share <= 0.05 ? `${brought}: little new comes by tags.` : `${brought}: new things still come.`;
}
