import type { Schemas } from '@/api/client';

/** A text in blocks, as the server has it. */
export type RichText = Schemas['RichText'];
export type RichBlock = RichText['blocks'][number];
export type RichInline = NonNullable<RichBlock['content']>[number];

/** What of a thing stands in a text. */
export const embeddedTypes = ['quote', 'clip', 'picture', 'figure', 'attachment'] as const;

export const isEmbedded = (block: RichBlock) =>
  (embeddedTypes as readonly string[]).includes(block.type) && block.thing !== undefined && block.id !== undefined;

export const emptyText: RichText = { version: 1, blocks: [] };

/** A text that is kept as JSON; null for what is none. */
export function readText(json: string): RichText | null {
  try {
    const read = JSON.parse(json) as Partial<RichText> | null;
    return Array.isArray(read?.blocks) ? { version: 1, blocks: read.blocks } : null;
  } catch {
    return null;
  }
}

/** Two texts, one under the other. */
export const bothTexts = (one: RichText, other: RichText): RichText => ({ version: 1, blocks: [...one.blocks, ...other.blocks] });
