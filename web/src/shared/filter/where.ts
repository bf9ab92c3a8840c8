import type { Schemas } from '@/api/client';
import { kinds } from '@/parts/words';

type Conditions = Schemas['Conditions'];

/** Which observations are listed or counted, as the address holds it; what is left out asks for nothing. */
export type Where = Partial<Conditions>;

export const sentiments: readonly NonNullable<Schemas['Sentiment']>[] = ['negative', 'neutral', 'positive', 'mixed'];

/** Only what asks for something; undefined when nothing does. */
export function asking<W extends object = Where>(where: W): W | undefined {
  const found = Object.entries(where).filter(([, v]) => v !== undefined && v !== null && v !== false && !(Array.isArray(v) && v.length === 0));
  return found.length > 0 ? (Object.fromEntries(found) as W) : undefined;
}

/** The same as a query of the server carries it. */
export const asQuery = (where: Where | undefined): { where?: string } => (where ? { where: JSON.stringify(where) } : {});

const listOf = <T>(given: unknown, fits: (one: unknown) => one is T): T[] => (Array.isArray(given) ? [...new Set(given.filter(fits))] : []);
const isId = (one: unknown): one is number => typeof one === 'number' && Number.isInteger(one) && one > 0;
export const isDay = (one: unknown): one is string => typeof one === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(one) && !Number.isNaN(Date.parse(one));

/** A bound of a range, as values are kept: a number or a day. */
const isBound = (one: unknown): one is string => typeof one === 'string' && (isDay(one) || /^-?\d+(\.\d+)?(e[+-]?\d+)?$/i.test(one));

const ids = { none: [] as number[], read: (given: unknown) => listOf(given, isId) };
const isSet = { none: false, read: (given: unknown) => given === true };
const day = { none: null as string | null, read: (given: unknown) => (isDay(given) ? given : null) };
const objects = (given: unknown) => (Array.isArray(given) ? (given as unknown[]) : []).map((one) => (one ?? {}) as Record<string, unknown>);

/** Each condition once: what asks for nothing, and how it is read from an address that anybody may have written. */
export const fields: { [K in keyof Conditions]: { none: Conditions[K]; read: (given: unknown) => Conditions[K] } } = {
  participantIds: ids,
  values: {
    none: [],
    read: (given) => objects(given).flatMap(({ attributeId, value }) => (isId(attributeId) && typeof value === 'string' ? [{ attributeId, value }] : [])),
  },
  ranges: {
    none: [],
    read: (given) =>
      objects(given).flatMap(({ attributeId, ...bounds }) => {
        const range = { min: isBound(bounds['min']) ? bounds['min'] : null, max: isBound(bounds['max']) ? bounds['max'] : null };
        const alike = range.min === null || range.max === null || isDay(range.min) === isDay(range.max);
        return isId(attributeId) && (range.min ?? range.max) !== null && alike ? [{ attributeId, ...range }] : [];
      }),
  },
  sourceIds: ids,
  sourceKinds: { none: [], read: (given) => listOf(given, (one): one is Schemas['SourceKind'] => kinds.some((k) => k === one)) },
  sessionIds: ids,
  heldFrom: day,
  heldTo: day,
  tagIds: ids,
  untagged: isSet,
  authorIds: ids,
  sentiments: { none: [], read: (given) => listOf(given, (one): one is (typeof sentiments)[number] => sentiments.some((s) => s === one)) },
  starred: isSet,
  unsure: isSet,
  reviewed: isSet,
};
const names = Object.keys(fields) as (keyof Conditions)[];

/** Some conditions as an address holds them; what it does not say asks for nothing. */
const readOf = (given: unknown, of: readonly (keyof Conditions)[]): Where =>
  typeof given === 'object' && given !== null ? Object.fromEntries(of.map((name) => [name, fields[name].read((given as Record<string, unknown>)[name])])) : {};

/** All conditions, those too that ask for nothing. */
export const whole = (where: Where | undefined): Conditions =>
  ({ ...Object.fromEntries(names.map((name) => [name, fields[name].none])), ...where }) as Conditions;

/** What an address asks for; undefined for everything. */
export const whereOf = (given: unknown, of: readonly (keyof Conditions)[] = names): Where | undefined => asking(readOf(given, of));
