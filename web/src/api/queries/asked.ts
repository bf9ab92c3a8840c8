import type { Schemas } from '../client';
import type { paths } from '../schema';
import { nextPage } from '../pages';

/** What an address may ask for. */
export type Asked<P extends keyof paths> = paths[P]['get'] extends { parameters: { query?: infer Q } } ? NonNullable<Q> : never;

/** What a number, cell or label stands for: all that is given, together. */
export interface EvidenceOf {
  tagId?: number;
  otherTagId?: number;
  overlap?: Schemas['OverlapKind'];
  themeId?: number;
  /** The cell of a table, in the words of conditions; unlike them it does not change who is in scope. */
  cell?: Partial<Schemas['Conditions']>;
}

/** A thing whose trail can be read. */
export interface TrailOf {
  thing: 'observation' | 'tag' | 'theme' | 'insight' | 'exhibit' | 'source' | 'participant' | 'session' | 'attachment';
  id: number;
}

/** Which feedback is looked at. */
export interface FeedbackOf {
  view: Asked<'/api/intake'>['view'];
  studyId?: number;
  words: string;
}

export type PassageUnit = Schemas['PassageUnit'];

/** Whose marks are compared, over what. */
export interface AgreementOf {
  first: number;
  second: number;
  unit: NonNullable<Asked<'/api/studies/{studyId}/agreement'>['unit']>;
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

/** What of what lies in no theme is looked at. */
export type UnsortedOf = Under & { words?: string; leftOut?: boolean; groupBy?: UnsortedBy };
/** What of it stands together. */
export type UnsortedBy = NonNullable<Asked<'/api/studies/{studyId}/unsorted'>['groupBy']>;

/** Pages of something, from the first to the last that was asked for. */
export const inPagesOf = <P extends { quotes: readonly unknown[]; total: number }>() => ({
  initialPageParam: 0,
  getNextPageParam: (last: P, pages: readonly P[]) =>
    nextPage(
      last.total,
      pages.map((page) => page.quotes.length),
    ),
});

/** Pages of quotes. */
export const inPages = inPagesOf<Schemas['QuotePage']>();
