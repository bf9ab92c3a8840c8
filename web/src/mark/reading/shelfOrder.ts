import type { Schemas } from '@/api/client';
import { kinds } from '@/parts/words';

type Ordered = Pick<Schemas['SourceLine'], 'id' | 'kind'>;

/** Sources as the shelf shows them: kind by kind, inside each in the study's order. */
export const shelfOrder = <T extends Ordered>(sources: readonly T[]): T[] => kinds.flatMap((kind) => sources.filter((s) => s.kind === kind));

/** The source before or after another on the shelf; undefined at its ends. */
export function neighbour<T extends Ordered>(sources: readonly T[], of: number, by: -1 | 1): T | undefined {
  const order = shelfOrder(sources);
  const at = order.findIndex((s) => s.id === of);
  return at < 0 ? undefined : order[at + by];
}
