import type { Schemas } from '@/api/client';
import { writeTo } from '@/api/waiting/writeTo';
import { ownNumber, shortened } from '@/api/waiting/making';
import type { NewWaiting, Waiting } from '@/api/waiting/waiting';
import { anchorOf, inPicture, samePlace, type Along, type Box, type Place } from './stretch';

type Observation = Schemas['Observation'];
type Sentiment = Schemas['Sentiment'];

export interface TagsGiven {
  tagIds: number[];
  newTags: string[];
}

/** An observation as it is shown: what the server has, with what waits to be sent laid over it. */
export interface Shown extends Omit<Observation, 'anchor'> {
  start: number;
  end: number;
  /** Of a region of a picture. */
  box?: Box | undefined;
  /** Names of tags that do not exist yet. */
  newTags?: readonly string[];
  /** Something of it has not been acknowledged. */
  waits?: boolean;
}

/** A write of marking, as far as it changes what is shown. */
export type MarkWrite =
  | ({ kind: 'mark'; sourceId: number; id: number } & Place & TagsGiven)
  | ({ kind: 'tag'; id: number } & TagsGiven)
  | { kind: 'untag'; id: number; tagId: number }
  | { kind: 'value'; id: number; tagId: number; value: number | null }
  | { kind: 'sentiment'; id: number; sentiment: Sentiment | null }
  | { kind: 'star'; id: number; starred: boolean }
  | { kind: 'unsure'; id: number; unsure: boolean }
  | ({ kind: 'move'; id: number } & Place)
  | { kind: 'remove'; id: number };

type New = NewWaiting<MarkWrite>;

const sent = ({ tagIds, newTags }: TagsGiven) => ({ tagIds: [...tagIds], newTags: [...newTags] });

/** Each write with what is shown of it until the server has answered. */
export const writes = {
  mark: (sourceId: number, place: Place, given: TagsGiven, words: string, basedOn: string, along: Along = 'text'): New & { makes: number } => {
    const makes = ownNumber();
    const body = { anchor: anchorOf(along, place), ...sent(given), basedOn };
    const shown: MarkWrite = { kind: 'mark', sourceId, id: makes, ...place, ...given };
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
  move: (id: number, to: Place, was: Place, along: Along = 'text'): New =>
    writeTo(
      'put',
      '/api/observations/{id}/anchor',
      { id },
      { anchor: anchorOf(along, to), was: anchorOf(along, was) },
      {
        what: 'Move the edge of an observation',
        shown: { kind: 'move', id, start: to.start, end: to.end, ...(to.box ? { box: to.box } : {}) },
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

const placeOf = (anchor: Observation['anchor']): Place => {
  if (anchor.kind === 'text') return { start: anchor.start, end: anchor.end };
  if (anchor.kind === 'time') return { start: anchor.beginMs, end: anchor.endMs };
  const { x, y, width, height, outline } = anchor;
  return inPicture({ x, y, width, height, ...(outline === null ? {} : { outline }) });
};

const placed = new WeakMap<Observation, Shown>();

/** An observation by its place; the same object for the same one. Null for one that stands along something else. */
function shownOf(observation: Observation, along: Along): Shown | null {
  if (observation.anchor.kind !== along) return null;
  const known = placed.get(observation);
  if (known) return known;
  const { anchor, ...rest } = observation;
  const shown: Shown = { ...rest, ...placeOf(anchor) };
  placed.set(observation, shown);
  return shown;
}

/** A source's observations along its text, time or picture with the waiting writes laid over them, in order. The same objects where nothing waits. */
export function shownMarks(observations: readonly Observation[], waiting: readonly Waiting[], sourceId: number, along: Along = 'text'): readonly Shown[] {
  const pending = waiting.map((w) => w.shown).filter(isMarkWrite);
  let shown = observations.map((o) => shownOf(o, along)).filter((o) => o !== null);
  if (pending.length === 0) return shown;
  const change = (id: number, how: (o: Shown) => Partial<Shown>) => {
    shown = shown.map((o) => (o.id === id ? { ...o, ...how(o), waits: true } : o));
  };
  const withTags = (given: TagsGiven) => (o: Shown) => ({
    tagIds: [...new Set([...o.tagIds, ...given.tagIds])],
    newTags: [...(o.newTags ?? []), ...given.newTags],
  });
  for (const write of pending) {
    if (write.kind === 'mark') {
      if (write.sourceId !== sourceId) continue;
      if (shown.some((o) => o.id === write.id)) continue;
      const there = shown.find((o) => samePlace(o, write));
      // A stretch that is there already takes the tags: one's own mark, come back from the server.
      if (there && write.tagIds.every((t) => there.tagIds.includes(t)) && there.tagIds.length >= write.tagIds.length + write.newTags.length) continue;
      shown.push({
        ...blank,
        id: write.id,
        sourceId,
        start: write.start,
        end: write.end,
        box: write.box,
        tagIds: write.tagIds,
        newTags: write.newTags,
        waits: true,
      });
    } else if (write.kind === 'tag') change(write.id, withTags(write));
    else if (write.kind === 'untag') change(write.id, (o) => ({ tagIds: o.tagIds.filter((t) => t !== write.tagId) }));
    else if (write.kind === 'value') change(write.id, (o) => ({ values: withValue(o.values, write.tagId, write.value) }));
    else if (write.kind === 'sentiment') change(write.id, () => ({ sentiment: write.sentiment }));
    else if (write.kind === 'star') change(write.id, () => ({ starred: write.starred }));
    else if (write.kind === 'unsure') change(write.id, () => ({ unsure: write.unsure }));
    else if (write.kind === 'move') change(write.id, () => ({ start: write.start, end: write.end, box: write.box }));
    else shown = shown.filter((o) => o.id !== write.id);
  }
  return shown.sort((a, b) => a.start - b.start || b.end - a.end);
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
