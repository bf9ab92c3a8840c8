import { digits, type ActionList, type Press } from '@/parts/actions/actions';

/** What is done with a picture and its parts. */
export interface PictureActs {
  box: () => void;
  outline: () => void;
  step: (on: boolean) => void;
  tag: () => void;
  pen: (number: number) => void;
  /** Moves or sizes what is framed; false while nothing is. */
  arrow: (key: string, held: Press) => boolean;
  zoom: (times: number) => void;
  whole: () => void;
  card: () => void;
  star: () => void;
  unsure: () => void;
  putIn: () => void;
  remove: () => void;
  /** Whether there was something to leave. */
  leave: () => boolean;
}

const arrows = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'];

export const picture = {
  title: 'While a picture is open',
  actions: {
    arrow: {
      name: 'Move the frame',
      says: 'move the frame; with Shift size it, with Alt finely',
      group: 'move',
      keys: ['', 'Shift+', 'Alt+', 'Alt+Shift+'].flatMap((held) => arrows.map((a) => `${held}${a}`)),
      shown: '← → ↑ ↓',
      byKey: true,
      run: (a, press) => a.arrow(press.key, press),
    },
    next: { name: 'Next part', group: 'move', keys: [']'], run: (a) => a.step(true) },
    previous: { name: 'Previous part', group: 'move', keys: ['['], run: (a) => a.step(false) },
    box: { name: 'Frame a part', says: 'a frame in the middle; arrows move it, with Shift they size it', group: 'mark', keys: ['n'], run: (a) => a.box() },
    outline: {
      name: 'Draw an outline',
      says: 'draw an outline: arrows move the pen, Space sets a corner, Enter closes it',
      group: 'mark',
      keys: ['o'],
      run: (a) => a.outline(),
    },
    tag: { name: 'Tag what is framed', group: 'mark', keys: ['Enter'], run: (a) => a.tag() },
    pen: {
      name: 'Mark with a pen',
      says: 'mark it with the pen of that number',
      group: 'mark',
      ...digits,
      run: (a, { key }) => a.pen(Number(key)),
    },
    star: { name: 'Star the part', group: 'mark', keys: ['s'], run: (a) => a.star() },
    unsure: { name: 'Mark as unsure, or sure again', group: 'mark', keys: ['q'], run: (a) => a.unsure() },
    putIn: { name: 'Put in a theme or an insight', group: 'mark', keys: ['t'], run: (a) => a.putIn() },
    remove: { name: 'Remove the part', also: 'delete', group: 'mark', keys: ['Delete'], run: (a) => a.remove() },
    card: { name: 'Open the part', says: 'open the part: note, sentiment, trail', group: 'look', keys: ['e'], run: (a) => a.card() },
    nearer: { name: 'Zoom in', group: 'look', keys: ['+', '='], shown: '+', run: (a) => a.zoom(1.25) },
    farther: { name: 'Zoom out', group: 'look', keys: ['-'], run: (a) => a.zoom(0.8) },
    whole: { name: 'Show the whole picture', group: 'look', keys: ['w', '0'], shown: 'w', run: (a) => a.whole() },
    leave: { name: 'Choose nothing', group: 'move', keys: ['Escape'], run: (a) => a.leave() },
  },
} satisfies ActionList<PictureActs>;
