import type { Schemas } from '@/api/client';

/** What the values of an attribute are. */
export const attributeWords: Record<Schemas['AttributeKind'], string> = {
  choice: 'a choice',
  number: 'a number',
  date: 'a date',
  yesNo: 'yes or no',
  text: 'text',
};
