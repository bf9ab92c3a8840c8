import type { Schemas } from '@/api/client';
import { kinds } from '@/parts/words';

type Conditions = Schemas['Conditions'];

/** Which observations are listed or counted, as the address holds it; what is left out asks for nothing. */
export type Where = Partial<Conditions>;

export const sentiments: readonly NonNullable<Schemas['Sentiment']>[] = ['negative', 'neutral', 'positive', 'mixed'];

const none: Conditions = {
  participantIds: [],
  values: [],
  ranges: [],
  sourceIds: [],
  sourceKinds: [],
  sessionIds: [],
  heldFrom: null,
  heldTo: null,
  tagIds: [],
  untagged: false,
  authorIds: [],
  sentiments: [],
  starred: false,
  unsure: false,
  reviewed: false,
};

/** All conditions, those too that ask for nothing. */
export const whole = (where: Where | undefined): Conditions => ({ ...none, ...where });

/** Only what asks for something; undefined when nothing does. */
export function asking(where: Where): Where | undefined {
  const found = Object.entries(where).filter(([, v]) => v !== undefined && v !== null && v !== false && !(Array.isArray(v) && v.length === 0));
  return found.length > 0 ? (Object.fromEntries(found) as Where) : undefined;
}

/** The same as a query of the server carries it. */
export const asQuery = (where: Where | undefined): { where?: string } => (where ? { where: JSON.stringify(where) } : {});

const listOf = <T>(given: unknown, fits: (one: unknown) => one is T): T[] => (Array.isArray(given) ? [...new Set(given.filter(fits))] : []);
const isId = (one: unknown): one is number => typeof one === 'number' && Number.isInteger(one) && one > 0;
export const isDay = (one: unknown): one is string => typeof one === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(one) && !Number.isNaN(Date.parse(one));

/** A bound of a range, as values are kept: a number or a day. */
const isBound = (one: unknown): one is string => typeof one === 'string' && (isDay(one) || /^-?\d+(\.\d+)?(e[+-]?\d+)?$/i.test(one));

/** What an address asks for; undefined for everything. */
export function whereOf(given: unknown): Where | undefined {
  if (typeof given !== 'object' || given === null) return undefined;
  const from = given as Record<string, unknown>;
  return asking({
    participantIds: listOf(from['participantIds'], isId),
    values: (Array.isArray(from['values']) ? (from['values'] as unknown[]) : []).flatMap((one) => {
      const { attributeId, value } = (one ?? {}) as Record<string, unknown>;
      return isId(attributeId) && typeof value === 'string' ? [{ attributeId, value }] : [];
    }),
    ranges: (Array.isArray(from['ranges']) ? (from['ranges'] as unknown[]) : []).flatMap((one) => {
      const { attributeId, ...bounds } = (one ?? {}) as Record<string, unknown>;
      const range = { min: isBound(bounds['min']) ? bounds['min'] : null, max: isBound(bounds['max']) ? bounds['max'] : null };
      const alike = range.min === null || range.max === null || isDay(range.min) === isDay(range.max);
      return isId(attributeId) && (range.min ?? range.max) !== null && alike ? [{ attributeId, ...range }] : [];
    }),
    sourceIds: listOf(from['sourceIds'], isId),
    sourceKinds: listOf(from['sourceKinds'], (one): one is Schemas['SourceKind'] => kinds.some((k) => k === one)),
    sessionIds: listOf(from['sessionIds'], isId),
    heldFrom: isDay(from['heldFrom']) ? from['heldFrom'] : null,
    heldTo: isDay(from['heldTo']) ? from['heldTo'] : null,
    tagIds: listOf(from['tagIds'], isId),
    untagged: from['untagged'] === true,
    authorIds: listOf(from['authorIds'], isId),
    sentiments: listOf(from['sentiments'], (one): one is (typeof sentiments)[number] => sentiments.some((s) => s === one)),
    starred: from['starred'] === true,
    unsure: from['unsure'] === true,
    reviewed: from['reviewed'] === true,
  });
}
