import type { ComponentType } from 'react';
import type { Schemas } from '@/api/client';

/** What stands in the place of a turn while its words are mended. */
export type TurnEditor = ComponentType<{
  source: Schemas['Source'];
  turn: Schemas['StoredTurn'];
  who: string;
  onDone: () => void;
}>;
