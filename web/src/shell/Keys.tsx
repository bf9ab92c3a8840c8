import { useNavigate, useRouterState } from '@tanstack/react-router';
import { useSteps } from '@/api/useWrite';
import { Key } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { typing } from '@/parts/typing';
import { useDocumentKeys } from '@/parts/usePageKeys';
import type { Opening } from './useActions';
import { useStudyId } from '@/shared/useStudyId';

const everywhere = [
  ['Ctrl K', 'find or do anything'],
  ['Ctrl Z', 'undo your last step'],
  ['Ctrl Shift Z', 'redo it'],
  ['u', 'your steps, each with undo'],
  ['F', 'find words in all of this study'],
  ['?', 'these keys'],
] as const;
const marking = [
  ['← →', 'move by word; with Shift, select'],
  ['↑ ↓', 'move by sentence; with Shift, select'],
  ['PgUp PgDn', 'move by turn; with Shift, select'],
  ['g G', 'grow the selection: word, clause, sentence, turn, answer with its question; shrink it'],
  [') (', 'next and previous sentence that is not marked'],
  ['Enter', 'tag the selection, or the mark you are on'],
  ['.', 'give the last tags again'],
  ['Alt ↑ ↓ → ←', 'on a tag of the shelf: move it among the tags beside it, under the one before it, out again'],
  ['1 … 9', 'mark with the pen of that number; over a tag of the shelf, put it on that pen'],
  ['"', 'name a new tag with the selected words'],
  ['] [', 'next and previous mark'],
  ['} {', 'next and previous source'],
  ['b', 'two sources side by side, and back'],
  ['f', 'choose which marks are shown'],
  ['z', 'nothing but the words: both shelves away, and back; Escape brings them back too'],
  ['t', 'put the selection, or the mark you are on, in a theme or an insight'],
  ['/ Ctrl F', 'find words in this source'],
  ['Alt ← → ↑ ↓', 'move its end by word or sentence; with Shift, its beginning'],
  ['k', 'find more like the selection, or the mark you are on'],
  ['m', 'write a margin note on the selection, or on the sentence you are in'],
  ['n N', 'next and previous margin note'],
  ['x', 'split it at the caret'],
  ['j J', 'join it with the next mark; with all that overlap and share a tag'],
  ['q', 'mark it as unsure, or sure again'],
  ['s', 'star the mark you are on'],
  ['e', 'open the mark you are on: note, sentiment, trail'],
  ['Ctrl C', 'copy the selection or the mark, with who says it and where'],
  ['c', 'correct the words of the turn you are in'],
  ['Delete', 'remove the mark you are on'],
] as const;
const recording = [
  ['Space', 'play, stop'],
  ['← →', '5 s back and on; with Shift 1 s'],
  ['PgUp PgDn', '15 s back and on'],
  ['↑ ↓', 'faster, slower'],
  ['c C', 'to the next and the last change of scene'],
  ['i o', 'a clip begins here; it ends here, and its tags are asked for'],
  ['l L', 'hear it again; again and again'],
  [', .', 'move its edge 0.1 s back and on; with Shift 1 s'],
  ['b', 'move the other edge'],
  ['p', 'the next turn without a time begins here; or the one whose time you clicked'],
  ['n N', 'move the whole clip 0.1 s on, and back'],
  ['] [', 'next and previous clip'],
  ['Enter', 'tag the clip'],
  ['x j', 'split it where it plays; join it with the next'],
  ['h', 'the selected word is said here: its transcript is aligned'],
  ['k K', 'one frame on, and back'],
  ['f', 'keep this frame as a picture'],
  ['v', 'the wave is drawn taller, and as it is again'],
  ['g', 'the words follow the sound, or stay'],
  ['+ − w W', 'zoom; the whole; fit the clip'],
  [':', 'go to a time'],
  ['Alt with a key', 'play (Space or P), skip, i o l , . and f while you write'],
] as const;
const picture = [
  ['n', 'a box in the middle; arrows move it, with Shift they size it, with Alt finely'],
  ['o', 'draw an outline: arrows move the pen, Space sets a corner, Enter closes it'],
  ['] [', 'next and previous part'],
  ['Enter', 'tag what is framed'],
  ['1 … 9', 'mark it with the pen of that number'],
  ['e s q t', 'open the part; star it; unsure; put it in a theme or an insight'],
  ['+ − w', 'nearer, farther, the whole picture'],
  ['Delete', 'remove the part'],
] as const;
const people = [
  ['type', 'write into the cell you are on'],
  ['Shift ↓ →', 'choose many cells'],
  ['Ctrl Enter', 'write what you typed into all that is chosen'],
  ['Ctrl D', 'fill down from the first row that is chosen'],
  ['Ctrl C Ctrl V', 'copy and paste blocks, also from a spreadsheet'],
  ['Delete', 'empty what is chosen'],
] as const;
const gathering = [
  ['Tab', 'to the box of a source; Space chooses it'],
  ['Alt ↑ Alt ↓', 'move the source you are on up or down in its folder'],
] as const;
const sorting = [
  ['Space', 'choose an observation or tag'],
  ['t', 'put what is chosen in a theme'],
  ['Esc', 'choose nothing'],
] as const;

const tagSet = [
  ['↑ ↓ Home End', 'another line; with Shift it is chosen too'],
  ['← →', 'close and open what is under it'],
  ['Alt ↑ ↓', 'move it among those beside it'],
  ['Alt → ←', 'under the one above; out'],
  ['o', 'from the loose pile under the line of the frame that was selected last; or to the pile'],
  ['Ctrl X Ctrl V', 'cut, and put under the selected line'],
  ['Space', 'choose it'],
  ['F2', 'rename it'],
  ['e Enter', 'what it is and is not, and all else of it'],
  ['m', 'merge it, or those that are chosen; with Shift, a drop merges too'],
  ['s', 'in a study: split it'],
  ['r', 'retire it, or delete it'],
  ['/', 'find a tag'],
] as const;

const splitting = [
  ['1 … 9', 'send it to that tray; where it may go to several, choose the tray'],
  ['Enter', 'send it to the chosen trays'],
  ['q', 'not sure: look at it again later'],
  ['0', 'it stays on the wide tag'],
  ['Backspace', 'take back what was decided last'],
  ['← →', 'look at the one before, the one behind'],
  ['n', 'put narrower tags on keys'],
  ['a', 'many at once: with a word, or of a person'],
  ['Esc', 'leave it for now'],
] as const;

/** Keys that work on every page of the team. They never take a key from a text field, except the one that opens the palette. */
export function useShellKeys(show: (what: Opening) => void) {
  const studyId = useStudyId();
  const { undo, redo } = useSteps();
  const navigate = useNavigate();
  useDocumentKeys((event) => {
    const command = event.ctrlKey || event.metaKey;
    const key = event.key.toLowerCase();
    const take = (act: () => void) => {
      event.preventDefault();
      act();
    };
    if (command && !event.shiftKey && !event.altKey && key === 'k') return take(() => show('palette'));
    if (typing(event.target) || event.defaultPrevented) return;
    if (command && key === 'z') take(() => void (event.shiftKey ? redo(studyId) : undo(studyId)));
    else if (command && key === 'y') take(() => void redo(studyId));
    else if (!command && !event.altKey && key === 'u') take(() => show('steps'));
    else if (!command && event.key === 'F' && studyId !== null) take(() => void navigate({ to: '/studies/$studyId/mark/find', params: { studyId } }));
    else if (event.key === '?') take(() => show('keys'));
  });
}

export function KeysDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const path = useRouterState({ select: (s) => s.location.pathname });
  const groups = [
    ...(path.endsWith('/mark')
      ? [
          { title: 'While marking', keys: marking },
          { title: 'While a recording is open', keys: recording },
          { title: 'While a picture is open', keys: picture },
        ]
      : []),
    ...(path.endsWith('/gather') ? [{ title: 'In the list of sources', keys: gathering }] : []),
    ...(path.endsWith('/people') && path.includes('/gather') ? [{ title: 'In the grid of participants', keys: people }] : []),
    ...(path.endsWith('/sort') ? [{ title: 'At the sorting table', keys: sorting }] : []),
    ...(path.endsWith('/tags') ? [{ title: 'In the tag set', keys: tagSet }] : []),
    ...(path.includes('/sort/split/') ? [{ title: 'At the split desk', keys: splitting }] : []),
    { title: 'Everywhere', keys: everywhere },
  ];
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Keys of this page">
      {groups.map((group) => (
        <section key={group.title} className="mb-4">
          <h3 className="mb-1 font-semibold">{group.title}</h3>
          <dl className="grid grid-cols-[110px_1fr] gap-y-1.5">
            {group.keys.map(([key, does]) => (
              <div key={key} className="contents">
                <dt>
                  <Key>{key}</Key>
                </dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </Dialog>
  );
}
