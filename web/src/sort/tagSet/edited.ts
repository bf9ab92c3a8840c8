import type { Schemas } from '@/api/client';

/** A tag as the tag set shows it: with how broad it is, inside a study. */
export type EditedTag = Schemas['CountedTag'] & { breadth?: Schemas['Breadth'] };

/** A tag's own text, as it is saved; with what of it is to be different. */
export const textOf = (tag: EditedTag, change: Partial<Schemas['TagText']> = {}): Schemas['TagText'] => ({
  name: tag.name,
  parentId: tag.parentId,
  colour: tag.colour,
  definition: tag.definition,
  settled: tag.settled,
  scale: tag.scale,
  isNot: tag.isNot,
  aliases: tag.aliases,
  ...change,
});
