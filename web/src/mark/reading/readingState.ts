import type { TagsGiven } from '@/mark/observations/writes';
import type { TextRange } from '@/mark/observations/place';
import type { Selected } from './selected';

/** The state of reading and marking one text: what is selected, focused and open. Observations are called by number; a mark that waits has a number of the page's own. */
export interface ReadingState {
  selected: Selected | null;
  focused: number | null;
  hovered: number | null;
  /** The open card, and whether it asks for a value first. */
  card: { id: number; asks: boolean } | null;
  /** The open tag line: for what is selected or for an observation, with what was typed before when the server refused it. */
  tagLine: { on: 'selection' | number; before: TagsGiven | null } | null;
  /** What is being remarked on: the stretch of a note that is being written, or the note whose card is open or that is being tagged. */
  note: { do: 'write'; on: TextRange } | { do: 'open' | 'tag'; id: number } | null;
  /** Where the turn begins whose words are being mended. */
  correcting: number | null;
}

export type ReadingAction =
  /** The caret moved, or the selection grew, by keys. */
  | { do: 'select'; selected: Selected | null }
  /** Words were selected with the mouse; while an observation looks for its place they are not tagged. */
  | { do: 'selectWords'; selected: Selected; tags: boolean }
  /** The mouse pointed at a place in the words, or beside them; the smallest observation there is focused. */
  | { do: 'point'; position: number | null; on: number | null }
  | { do: 'focus'; id: number | null }
  | { do: 'hover'; id: number | null }
  | { do: 'openTagLine'; on: 'selection' | number }
  | { do: 'closeTagLine' }
  | { do: 'openCard'; id: number; asks?: boolean }
  | { do: 'closeCard' }
  /** What is selected was marked, and the mark stands there at once. */
  | { do: 'marked'; id: number; end: number; asks: boolean }
  /** The server refused the mark: the selection and what was typed come back. */
  | { do: 'markRefused'; id: number; selected: Selected; given: TagsGiven }
  /** The server refused tags for an observation that is there. */
  | { do: 'tagsRefused'; id: number; given: TagsGiven }
  | { do: 'note'; note: ReadingState['note'] }
  | { do: 'correct'; turn: number | null };

/** How the view begins: at an observation or at a place in the text, when the address names one. */
export const readingAt = (observation: number | undefined, place: number | undefined): ReadingState => ({
  selected: place === undefined ? null : { anchor: place, focus: place },
  focused: observation ?? null,
  hovered: null,
  card: null,
  tagLine: null,
  note: null,
  correcting: null,
});

const caret = (at: number): Selected => ({ anchor: at, focus: at });

export function reading(state: ReadingState, action: ReadingAction): ReadingState {
  switch (action.do) {
    case 'select':
      return { ...state, selected: action.selected };
    case 'selectWords':
      return { ...state, selected: action.selected, tagLine: action.tags ? { on: 'selection', before: null } : state.tagLine };
    case 'point':
      return action.position === null
        ? { ...state, tagLine: null, selected: null }
        : { ...state, tagLine: null, selected: caret(action.position), focused: action.on };
    case 'focus':
      return { ...state, focused: action.id };
    case 'hover':
      return { ...state, hovered: action.id };
    case 'openTagLine':
      return { ...state, card: null, note: null, tagLine: { on: action.on, before: null } };
    case 'closeTagLine':
      return { ...state, tagLine: null };
    case 'openCard':
      return { ...state, focused: action.id, card: { id: action.id, asks: action.asks ?? false } };
    case 'closeCard':
      return { ...state, card: null };
    case 'marked':
      return {
        ...state,
        selected: caret(action.end),
        focused: action.id,
        tagLine: null,
        card: action.asks ? { id: action.id, asks: true } : state.card,
      };
    case 'markRefused':
      return {
        ...state,
        selected: action.selected,
        focused: state.focused === action.id ? null : state.focused,
        card: state.card?.id === action.id ? null : state.card,
        tagLine: { on: 'selection', before: action.given },
      };
    case 'tagsRefused':
      return { ...state, tagLine: { on: action.id, before: action.given } };
    case 'note':
      return { ...state, note: action.note, card: null, tagLine: null };
    case 'correct':
      return { ...state, correcting: action.turn };
  }
}
