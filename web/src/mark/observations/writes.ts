import type { Schemas } from '@/api/client';
import { writeTo } from '@/api/waiting/writeTo';
import { ownNumber, shortened } from '@/api/waiting/making';
import type { NewWaiting, Waiting } from '@/api/waiting/waiting';
import { anchorOf, endsOf, placeIn, placeOf, samePlace, type InPicture, type Place, type Places, type TextRange, type TimeRange } from './place';

type Observation = Schemas['Observation'];
type Sentiment = Schemas['Sentiment'];

export interface TagsGiven {
  tagIds: number[];
  newTags: string[];
}

interface Facts extends Omit<Observation, 'anchor'> {
  /** Names of tags that do not exist yet. */
  newTags?: readonly string[];
  /** Something of it has not been acknowledged. */
  waits?: boolean;
}

/** An observation as it is shown: what the server has, with what waits to be sent laid over it, by its place. */
export type Shown<P extends Place = Place> = Facts & P;
export type ShownWords = Shown<TextRange>;
export type ShownClip = Shown<TimeRange>;
export type ShownRegion = Shown<InPicture>;

/** A write of marking, as far as it changes what is shown. */
export type MarkWrite =
  | ({ kind: 'mark'; sourceId: number; id: number; at: Place } & TagsGiven)
  | ({ kind: 'tag'; id: number } & TagsGiven)
  | { kind: 'untag'; id: number; tagId: number }
  | { kind: 'value'; id: number; tagId: number; value: number | null }
  | { kind: 'sentiment'; id: number; sentiment: Sentiment | null }
  | { kind: 'star'; id: number; starred: boolean }
  | { kind: 'unsure'; id: number; unsure: boolean }
  | { kind: 'move'; id: number; at: Place }
  | { kind: 'remove'; id: number };

type New = NewWaiting<MarkWrite>;

const sent = ({ tagIds, newTags }: TagsGiven) => ({ tagIds: [...tagIds], newTags: [...newTags] });

/** Each write with what is shown of it until the server has answered. */
export const writes = {
  mark: (sourceId: number, at: Place, given: TagsGiven, words: string, basedOn: string): New & { makes: number } => {
    const makes = ownNumber();
    const body = { anchor: anchorOf(at), ...sent(given), basedOn };
    const shown: MarkWrite = { kind: 'mark', sourceId, id: makes, at: placeIn(at), ...given };
    return { ...writeTo('post', '/api/sources/{id}/observations', { id: sourceId }, body, { what: `Mark “${shortened(words)}”`, shown }), makes };
  },
  tag: (studyId: number, id: number, given: TagsGiven): New =>
    writeTo(
      'post',
      '/api/studies/{studyId}/observations/tags',
      { studyId },
      { observationIds: [id], ...sent(given) },
      { what: 'Tag an observation', shown: { kind: 'tag', id, ...given } },
    ),
  untag: (id: number, tagId: number): New =>
    writeTo('delete', '/api/observations/{id}/tags/{tagId}', { id, tagId }, null, { what: 'Remove a tag', shown: { kind: 'untag', id, tagId } }),
  value: (id: number, tagId: number, value: number | null): New =>
    writeTo('put', '/api/observations/{id}/tags/{tagId}/value', { id, tagId }, { value }, { what: 'Give a value', shown: { kind: 'value', id, tagId, value } }),
  sentiment: (id: number, sentiment: Sentiment | null): New =>
    writeTo('put', '/api/observations/{id}/sentiment', { id }, { sentiment }, { what: 'Set a sentiment', shown: { kind: 'sentiment', id, sentiment } }),
  star: (id: number, starred: boolean): New =>
    writeTo(
      'put',
      '/api/observations/{id}/star',
      { id },
      { starred },
      { what: starred ? 'Star an observation' : 'Remove a star', shown: { kind: 'star', id, starred } },
    ),
  unsure: (id: number, unsure: boolean): New =>
    writeTo(
      'put',
      '/api/observations/{id}/unsure',
      { id },
      { unsure },
      { what: unsure ? 'Mark as unsure' : 'Mark as sure', shown: { kind: 'unsure', id, unsure } },
    ),
  move: (id: number, to: Place, was: Place): New =>
    writeTo(
      'put',
      '/api/observations/{id}/anchor',
      { id },
      { anchor: anchorOf(to), was: anchorOf(was) },
      {
        what: 'Move the edge of an observation',
        shown: { kind: 'move', id, at: placeIn(to) },
      },
    ),
  remove: (studyId: number, id: number): New =>
    writeTo(
      'post',
      '/api/studies/{studyId}/observations/remove',
      { studyId },
      { observationIds: [id] },
      { what: 'Remove an observation', shown: { kind: 'remove', id } },
    ),
};

const isMarkWrite = (shown: unknown): shown is MarkWrite => typeof shown === 'object' && shown !== null && 'kind' in shown;

const placed = new WeakMap<Observation, Shown>();

/** An observation by its place; the same object for the same one. */
function shownOf(observation: Observation): Shown {
  const known = placed.get(observation);
  if (known) return known;
  const { anchor, ...rest } = observation;
  const shown: Shown = { ...rest, ...placeOf(anchor) };
  placed.set(observation, shown);
  return shown;
}

/** A source's observations of one kind with the waiting writes laid over them, in order. The same objects where nothing waits. */
export function shownMarks<K extends keyof Places = 'text'>(
  observations: readonly Observation[],
  waiting: readonly Waiting[],
  sourceId: number,
  kind: K = 'text' as K,
): readonly Shown<Places[K]>[] {
  const pending = waiting.map((w) => w.shown).filter(isMarkWrite);
  let shown = observations.filter((o) => o.anchor.kind === kind).map(shownOf);
  const change = (id: number, how: (o: Shown) => Partial<Facts> | Place) => {
    shown = shown.map((o) => (o.id === id ? ({ ...o, ...how(o), waits: true } as Shown) : o));
  };
  const withTags = (given: TagsGiven) => (o: Shown) => ({
    tagIds: [...new Set([...o.tagIds, ...given.tagIds])],
    newTags: [...(o.newTags ?? []), ...given.newTags],
  });
  for (const write of pending) {
    if (write.kind === 'mark') {
      if (write.sourceId !== sourceId || anchorOf(write.at).kind !== kind) continue;
      if (shown.some((o) => o.id === write.id)) continue;
      const there = shown.find((o) => samePlace(o, write.at));
      // A place that is marked already takes the tags: one's own mark, come back from the server.
      if (there && write.tagIds.every((t) => there.tagIds.includes(t)) && there.tagIds.length >= write.tagIds.length + write.newTags.length) continue;
      shown.push({ ...blank, ...write.at, id: write.id, sourceId, tagIds: write.tagIds, newTags: write.newTags, waits: true });
    } else if (write.kind === 'tag') change(write.id, withTags(write));
    else if (write.kind === 'untag') change(write.id, (o) => ({ tagIds: o.tagIds.filter((t) => t !== write.tagId) }));
    else if (write.kind === 'value') change(write.id, (o) => ({ values: withValue(o.values, write.tagId, write.value) }));
    else if (write.kind === 'sentiment') change(write.id, () => ({ sentiment: write.sentiment }));
    else if (write.kind === 'star') change(write.id, () => ({ starred: write.starred }));
    else if (write.kind === 'unsure') change(write.id, () => ({ unsure: write.unsure }));
    else if (write.kind === 'move') change(write.id, () => write.at);
    else shown = shown.filter((o) => o.id !== write.id);
  }
  if (pending.length > 0) shown.sort((a, b) => endsOf(a)[0] - endsOf(b)[0] || endsOf(b)[1] - endsOf(a)[1]);
  return shown as unknown as Shown<Places[K]>[];
}

const withValue = (values: Observation['values'], tagId: number, value: number | null) =>
  Object.fromEntries([
    ...Object.entries(values).filter(([tag]) => Number(tag) !== tagId),
    ...(value === null ? [] : [[tagId, value]]),
  ]) as Observation['values'];

const blank = {
  values: {},
  note: '',
  sentiment: null,
  starred: false,
  unsure: false,
  found: false,
  late: false,
  version: 0,
  createdById: 0,
  createdBy: '',
  createdAt: '',
};
