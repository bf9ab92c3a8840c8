import type { Dispatch, RefObject } from 'react';
import type { Schemas } from '@/api/client';
import { outgoing } from '@/api/waiting/outgoing';
import { NoteCard } from '@/mark/marginNotes/NoteCard';
import { NoteField } from '@/mark/marginNotes/NoteField';
import type { ShownNote } from '@/mark/marginNotes/noteWrites';
import type { useMarginNotes } from '@/mark/marginNotes/useMarginNotes';
import { ObservationCard } from '@/mark/observations/ObservationCard';
import type { TextRange } from '@/mark/observations/place';
import type { useMarking } from '@/mark/observations/useMarking';
import type { ShownWords, TagsGiven } from '@/mark/observations/writes';

import { TagLine } from '@/parts/TagLine';
import type { TagLook, TagUse } from '@/parts/tagLook';
import type { Onto } from './dragging';
import { nearTags } from './nearTags';
import { PutIn } from './PutIn';
import type { ReadingAction, ReadingState } from './readingState';
import { TagLinePlace } from './TagLinePlace';
import { TouchBar } from './TouchBar';
import type { useCiting } from './useCiting';

interface Props {
  root: RefObject<HTMLDivElement | null>;
  source: Schemas['Source'];
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
  scales: ReadonlyMap<number, Schemas['Scale']>;
  state: ReadingState;
  dispatch: Dispatch<ReadingAction>;
  observations: readonly ShownWords[];
  marking: ReturnType<typeof useMarking<TextRange>>;
  remarks: ReturnType<typeof useMarginNotes>;
  /** The margin note that is open, or being tagged. */
  noted: ShownNote | undefined;
  citing: ReturnType<typeof useCiting>;
  /** What is selected. */
  stretch: TextRange | null;
  /** The selection was made by touch. */
  byTouch: boolean;
  /** A selection is for tagging, and not a place for something else. */
  tagsSelection: boolean;
  /** What is put in a theme or an insight. */
  puttingIn: TextRange | ShownWords | null;
  onPutIn: (what: TextRange | ShownWords | null) => void;
  ontoOf: (what: TextRange | ShownWords) => Onto;
  /** The tag line was filled in. */
  onDone: (given: TagsGiven, values: readonly [number, number][]) => void;
  /** The keys go on in the text. */
  onBack: () => void;
}

/** What stands over the words while something is done with them: the tag line, a margin note, the card of a mark. */
export function Overlays({
  root,
  source,
  tags,
  look,
  scales,
  state,
  dispatch,
  observations,
  marking,
  remarks,
  noted,
  citing,
  stretch,
  byTouch,
  tagsSelection,
  puttingIn,
  onPutIn,
  ontoOf,
  onDone,
  onBack,
}: Props) {
  const { tagLine } = state;
  const called = (number: number | null) => (number === null ? undefined : observations.find((o) => o.id === outgoing.numberOf(number)));
  const lineAt = state.note?.do === 'tag' ? noted : tagLine?.on === 'selection' ? stretch : called(tagLine?.on ?? null);
  const opened = called(state.card?.id ?? null);
  const leaveNote = () => {
    dispatch({ do: 'note', note: null });
    onBack();
  };
  return (
    <>
      {lineAt && (
        <TagLinePlace root={root} stretch={lineAt}>
          <TagLine
            tags={tags}
            look={look}
            recent={marking.recent}
            near={nearTags(observations, lineAt)}
            asksValues={!noted}
            words={tagLine?.on === 'selection' ? source.text.slice(lineAt.start, lineAt.end).replace(/\s+/g, ' ').trim() : undefined}
            before={tagLine?.before ?? undefined}
            onDone={(tagIds, newTags, values) => onDone({ tagIds, newTags }, values)}
            onCancel={() => {
              if (state.note) dispatch({ do: 'note', note: null });
              dispatch({ do: 'closeTagLine' });
              onBack();
            }}
          />
        </TagLinePlace>
      )}
      {byTouch && stretch && stretch.end > stretch.start && !lineAt && !state.note && tagsSelection && (
        <TagLinePlace root={root} stretch={stretch}>
          <TouchBar
            onTag={() => dispatch({ do: 'openTagLine', on: 'selection' })}
            onNote={() => dispatch({ do: 'note', note: { do: 'write', on: stretch } })}
            onPutIn={() => onPutIn(stretch)}
          />
        </TagLinePlace>
      )}
      {state.note?.do === 'write' && (
        <TagLinePlace root={root} stretch={state.note.on}>
          <NoteField
            place={`${source.line.id} ${state.note.on.start} ${state.note.on.end}`}
            onDone={(words, unsure) => {
              if (state.note?.do === 'write') remarks.make(state.note.on, words, unsure);
              leaveNote();
            }}
            onCancel={leaveNote}
          />
        </TagLinePlace>
      )}
      {noted && state.note?.do === 'open' && (
        <NoteCard
          key={noted.id}
          note={noted}
          onClose={leaveNote}
          onUnsure={() => remarks.unsure(noted)}
          onTag={() => dispatch({ do: 'note', note: { do: 'tag', id: noted.id } })}
          onRemove={() => {
            leaveNote();
            remarks.remove(noted);
          }}
        />
      )}
      {puttingIn && <PutIn studyId={source.studyId} onto={ontoOf(puttingIn)} onClose={() => onPutIn(null)} />}
      {opened && (
        <ObservationCard
          key={state.card?.id}
          studyId={source.studyId}
          observation={opened}
          look={look}
          scaleOf={(tagId) => scales.get(tagId) ?? null}
          asked={state.card?.asks ?? false}
          onValue={(tagId, value) => marking.value(opened.id, tagId, value)}
          onClose={() => {
            dispatch({ do: 'closeCard' });
            onBack();
          }}
          onSentiment={(sentiment) => marking.sentiment(opened.id, sentiment)}
          onStar={() => marking.star(opened)}
          onUnsure={() => marking.unsure(opened)}
          onCopy={() => citing.words(opened, opened.id)}
          onCopyLink={() => citing.link(opened.id)}
          onUntag={(tagId) => marking.untag(opened.id, tagId)}
          onAddTag={() => dispatch({ do: 'openTagLine', on: opened.id })}
          onRemove={() => {
            dispatch({ do: 'closeCard' });
            marking.remove(opened.id);
            onBack();
          }}
        />
      )}
    </>
  );
}
