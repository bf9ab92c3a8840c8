import type { Schemas } from '../client';
import { nextPage } from '../pages';

/** What a number, cell or label stands for: all given conditions together. */
export interface EvidenceOf {
  tagId?: number;
  otherTagId?: number;
  overlap?: 'sameObservation' | 'touching';
  themeId?: number;
  sourceId?: number;
  participantId?: number;
  sourceKind?: Schemas['SourceKind'];
  /** With `value`: only of people who have this value of the attribute. */
  attributeId?: number;
  value?: string;
}

/** A thing whose trail can be read. */
export interface TrailOf {
  thing: 'observation' | 'tag' | 'theme' | 'insight' | 'exhibit' | 'source' | 'participant' | 'session' | 'attachment';
  id: number;
}

/** Which feedback is looked at. */
export interface FeedbackOf {
  view: 'waiting' | 'kept' | 'dismissed' | 'nowhere' | 'all';
  studyId?: number;
  words: string;
}

export type PassageUnit = Schemas['PassageUnit'];

/** Whose marks are compared, over what. */
export interface AgreementOf {
  first: number;
  second: number;
  unit: 'sentence' | 'turn' | 'second';
  sourceId: number[];
}

/** Which passages are looked for. */
export interface PassagesOf {
  typed: string;
  unit: PassageUnit;
  team?: boolean;
  newForTagId?: number;
  /** What of what is found stands together; by source when nothing is said. */
  groupBy?: 'person';
  /** Conditions, as JSON. */
  where?: string;
}

/** Conditions as a query carries them. */
export type Under = { where?: string };

/** Pages of quotes, from the first to the last that was asked for. */
export const inPages = {
  initialPageParam: 0,
  getNextPageParam: (last: Schemas['QuotePage'], pages: readonly Schemas['QuotePage'][]) =>
    nextPage(
      last.total,
      pages.map((page) => page.quotes.length),
    ),
};
