import type { TextRange, TimeRange } from '@/mark/observations/place';
import type { TagsGiven } from '@/mark/observations/writes';

/** What is chosen to be marked: time of the recording, or words of the transcript beside it. */
export type Chosen = TimeRange | TextRange;

/** An end of a clip. */
export type Edge = 'beginMs' | 'endMs';

/** The state of marking one recording. Observations are called by number; one that waits has a number of the page's own. */
export interface DeskState {
  chosen: Chosen | null;
  focused: number | null;
  /** The edge that keys move. */
  edge: Edge;
  /** Where the beginning of a clip was set by key. */
  begun: number | null;
  /** The open tag line: for what is chosen or for an observation, with what was typed before when the server refused it. */
  tagLine: { on: 'chosen' | number; before: TagsGiven | null } | null;
  card: { id: number; asks: boolean } | null;
}

export type DeskAction =
  | { do: 'choose'; chosen: Chosen | null; tags?: boolean }
  | { do: 'begin'; at: number }
  | { do: 'focus'; id: number | null }
  | { do: 'otherEdge' }
  | { do: 'openTagLine'; on: 'chosen' | number }
  | { do: 'closeTagLine' }
  | { do: 'openCard'; id: number; asks?: boolean }
  | { do: 'closeCard' }
  | { do: 'marked'; id: number; asks: boolean }
  /** The server refused the mark: what was chosen and what was typed come back. */
  | { do: 'markRefused'; id: number; chosen: Chosen; given: TagsGiven }
  | { do: 'tagsRefused'; id: number; given: TagsGiven };

export const deskAt = (observation: number | undefined): DeskState => ({
  chosen: null,
  focused: observation ?? null,
  edge: 'endMs',
  begun: null,
  tagLine: null,
  card: null,
});

export function desk(state: DeskState, action: DeskAction): DeskState {
  switch (action.do) {
    case 'choose':
      return { ...state, chosen: action.chosen, focused: null, begun: null, tagLine: action.tags ? { on: 'chosen', before: null } : null };
    case 'begin':
      return { ...state, begun: action.at, chosen: null, focused: null, tagLine: null };
    case 'focus':
      return { ...state, focused: action.id, chosen: null, tagLine: null };
    case 'otherEdge':
      return { ...state, edge: state.edge === 'endMs' ? 'beginMs' : 'endMs' };
    case 'openTagLine':
      return { ...state, card: null, tagLine: { on: action.on, before: null } };
    case 'closeTagLine':
      return { ...state, tagLine: null };
    case 'openCard':
      return { ...state, focused: action.id, chosen: null, card: { id: action.id, asks: action.asks ?? false } };
    case 'closeCard':
      return { ...state, card: null };
    case 'marked':
      return { ...state, chosen: null, begun: null, focused: action.id, tagLine: null, card: action.asks ? { id: action.id, asks: true } : state.card };
    case 'markRefused':
      return {
        ...state,
        chosen: action.chosen,
        focused: state.focused === action.id ? null : state.focused,
        card: state.card?.id === action.id ? null : state.card,
        tagLine: { on: 'chosen', before: action.given },
      };
    case 'tagsRefused':
      return { ...state, tagLine: { on: action.id, before: action.given } };
  }
}
