import { digits, type ActionList } from '@/parts/actions/actions';

/** What is done with a recording. */
export interface DeskActs {
  toggle: () => void;
  skip: (ms: number) => void;
  faster: (steps: 1 | -1) => void;
  begin: () => void;
  end: () => void;
  again: () => void;
  loop: () => void;
  edge: (ms: number) => void;
  otherEdge: () => void;
  nudge: (ms: number) => void;
  scene: (on: boolean) => void;
  pin: () => void;
  here: () => void;
  frame: (on: boolean) => void;
  louder: () => void;
  still: () => void;
  follow: () => void;
  zoom: (times: number) => void;
  whole: () => void;
  fit: () => void;
  goTo: () => void;
  step: (on: boolean) => void;
  tag: () => void;
  pen: (number: number) => void;
  putIn: () => void;
  card: () => void;
  star: () => void;
  unsure: () => void;
  split: () => void;
  join: () => void;
  remove: () => void;
  /** Whether there was something to leave. */
  leave: () => boolean;
}

/** Marking a recording with hands on the keys. Those with Alt go on while somebody writes. */
export const recording = {
  title: 'While a recording is open',
  actions: {
    play: { name: 'Play or stop', also: 'pause', group: 'look', keys: [' ', 'Alt+ ', 'Alt+p'], shown: 'Space', inFields: true, run: (a) => a.toggle() },
    back: {
      name: '5 s back',
      says: '5 s back; with Shift 1 s',
      group: 'move',
      keys: ['ArrowLeft', 'Alt+ArrowLeft'],
      shown: '←',
      inFields: true,
      run: (a) => a.skip(-5000),
    },
    on: {
      name: '5 s on',
      says: '5 s on; with Shift 1 s',
      group: 'move',
      keys: ['ArrowRight', 'Alt+ArrowRight'],
      shown: '→',
      inFields: true,
      run: (a) => a.skip(5000),
    },
    backFinely: { name: '1 s back', group: 'move', keys: ['Shift+ArrowLeft'], run: (a) => a.skip(-1000) },
    onFinely: { name: '1 s on', group: 'move', keys: ['Shift+ArrowRight'], run: (a) => a.skip(1000) },
    farBack: { name: '15 s back', group: 'move', keys: ['PageUp'], run: (a) => a.skip(-15_000) },
    farOn: { name: '15 s on', group: 'move', keys: ['PageDown'], run: (a) => a.skip(15_000) },
    goTo: { name: 'Go to a time', group: 'move', keys: [':'], run: (a) => a.goTo() },
    next: { name: 'Next clip', group: 'move', keys: [']'], run: (a) => a.step(true) },
    previous: { name: 'Previous clip', group: 'move', keys: ['['], run: (a) => a.step(false) },
    nextScene: { name: 'Next change of scene', group: 'move', keys: ['c'], run: (a) => a.scene(true) },
    lastScene: { name: 'Previous change of scene', group: 'move', keys: ['C'], run: (a) => a.scene(false) },
    nextFrame: { name: 'One frame on', group: 'move', keys: ['k'], run: (a) => a.frame(true) },
    lastFrame: { name: 'One frame back', group: 'move', keys: ['K'], run: (a) => a.frame(false) },
    faster: { name: 'Play faster', also: 'speed rate', group: 'look', keys: ['ArrowUp', 'Alt+ArrowUp'], shown: '↑', inFields: true, run: (a) => a.faster(1) },
    slower: {
      name: 'Play slower',
      also: 'speed rate',
      group: 'look',
      keys: ['ArrowDown', 'Alt+ArrowDown'],
      shown: '↓',
      inFields: true,
      run: (a) => a.faster(-1),
    },
    again: { name: 'Play the clip again', group: 'look', keys: ['l', 'Alt+l'], shown: 'l', inFields: true, run: (a) => a.again() },
    loop: { name: 'Loop the clip', says: 'play the clip again and again', group: 'look', keys: ['L'], run: (a) => a.loop() },
    begin: { name: 'A clip begins here', group: 'mark', keys: ['i', 'Alt+i'], shown: 'i', inFields: true, run: (a) => a.begin() },
    end: {
      name: 'The clip ends here',
      says: 'the clip ends here, and its tags are asked for',
      group: 'mark',
      keys: ['o', 'Alt+o'],
      shown: 'o',
      inFields: true,
      run: (a) => a.end(),
    },
    tag: { name: 'Tag the clip', group: 'mark', keys: ['Enter'], run: (a) => a.tag() },
    pen: {
      name: 'Mark with a pen',
      says: 'mark with the pen of that number',
      group: 'mark',
      ...digits,
      run: (a, { key }) => a.pen(Number(key)),
    },
    edgeBack: {
      name: 'Move its edge 0.1 s back',
      says: 'move its edge 0.1 s back; with Shift 1 s',
      group: 'mark',
      keys: [',', 'Alt+,'],
      shown: ',',
      inFields: true,
      run: (a) => a.edge(-100),
    },
    edgeOn: {
      name: 'Move its edge 0.1 s on',
      says: 'move its edge 0.1 s on; with Shift 1 s',
      group: 'mark',
      keys: ['.', 'Alt+.'],
      shown: '.',
      inFields: true,
      run: (a) => a.edge(100),
    },
    edgeFarBack: { name: 'Move its edge 1 s back', group: 'mark', keys: ['<'], run: (a) => a.edge(-1000) },
    edgeFarOn: { name: 'Move its edge 1 s on', group: 'mark', keys: ['>'], run: (a) => a.edge(1000) },
    otherEdge: { name: 'Move the other edge', group: 'mark', keys: ['b'], run: (a) => a.otherEdge() },
    nudgeOn: { name: 'Move the whole clip 0.1 s on', group: 'mark', keys: ['n'], run: (a) => a.nudge(100) },
    nudgeBack: { name: 'Move the whole clip 0.1 s back', group: 'mark', keys: ['N'], run: (a) => a.nudge(-100) },
    split: { name: 'Split it where it plays', group: 'mark', keys: ['x'], run: (a) => a.split() },
    join: { name: 'Join with the next clip', group: 'mark', keys: ['j'], run: (a) => a.join() },
    putIn: { name: 'Put in a theme or an insight', group: 'mark', keys: ['t'], run: (a) => a.putIn() },
    star: { name: 'Star the clip', group: 'mark', keys: ['s'], run: (a) => a.star() },
    unsure: { name: 'Mark as unsure, or sure again', group: 'mark', keys: ['q'], run: (a) => a.unsure() },
    remove: { name: 'Remove the clip', also: 'delete', group: 'mark', keys: ['Delete'], run: (a) => a.remove() },
    card: { name: 'Open the clip', says: 'open the clip: note, sentiment, trail', group: 'look', keys: ['e'], run: (a) => a.card() },
    still: { name: 'Keep this frame as a picture', also: 'still', group: 'mark', keys: ['f', 'Alt+f'], shown: 'f', inFields: true, run: (a) => a.still() },
    pin: {
      name: 'The next turn begins here',
      says: 'the next turn without a time begins here; or the one whose time you clicked',
      also: 'pin transcript',
      group: 'mark',
      keys: ['p'],
      run: (a) => a.pin(),
    },
    here: {
      name: 'The selected word is said here',
      says: 'the selected word is said here: its transcript is aligned',
      also: 'align',
      group: 'mark',
      keys: ['h'],
      run: (a) => a.here(),
    },
    follow: { name: 'The words follow the sound, or stay', group: 'look', keys: ['g'], run: (a) => a.follow() },
    louder: { name: 'Draw the wave taller', says: 'the wave is drawn taller, and as it is again', group: 'look', keys: ['v'], run: (a) => a.louder() },
    nearer: { name: 'Zoom in', group: 'look', keys: ['+', '='], shown: '+', run: (a) => a.zoom(0.5) },
    farther: { name: 'Zoom out', group: 'look', keys: ['-'], run: (a) => a.zoom(2) },
    whole: { name: 'Show the whole recording', group: 'look', keys: ['w'], run: (a) => a.whole() },
    fit: { name: 'Fit the clip', group: 'look', keys: ['W'], run: (a) => a.fit() },
    leave: { name: 'Choose no clip', group: 'move', keys: ['Escape'], run: (a) => a.leave() },
  },
} satisfies ActionList<DeskActs>;
