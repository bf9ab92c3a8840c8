import { digits, type ActionList } from '@/parts/actions/actions';

/** What is done while suggestions are gone through. */
export interface WalkActs {
  /** Of what is looked at; null where it cannot be done. */
  yes: (() => void) | null;
  no: (() => void) | null;
  elsewhere: (() => void) | null;
  later: (() => void) | null;
  into: (number: number) => void;
  /** Of all that waits in the group. */
  group: (() => void) | null;
  claim: (() => void) | null;
  step: (by: 1 | -1) => void;
  place: (by: 1 | -1) => void;
}

export const walking = {
  title: 'Going through suggestions',
  actions: {
    yes: {
      name: 'Yes',
      says: 'it belongs there: put it in the theme',
      also: 'accept',
      group: 'mark',
      keys: ['y'],
      when: (a) => a.yes !== null,
      run: (a) => a.yes?.(),
    },
    no: {
      name: 'No',
      says: 'it does not belong there, and is not suggested there again',
      also: 'refuse',
      group: 'mark',
      keys: ['n'],
      when: (a) => a.no !== null,
      run: (a) => a.no?.(),
    },
    elsewhere: {
      name: 'Elsewhere',
      says: 'it belongs in another group',
      also: 'move',
      group: 'mark',
      keys: ['e'],
      when: (a) => a.elsewhere !== null,
      run: (a) => a.elsewhere?.(),
    },
    into: { name: 'Into the group of that number', group: 'mark', ...digits, run: (a, { key }) => a.into(Number(key)) },
    later: { name: 'Later', says: 'decide about it later', group: 'mark', keys: ['l'], when: (a) => a.later !== null, run: (a) => a.later?.() },
    group: {
      name: 'Accept the group',
      says: 'yes to all that waits in the group',
      group: 'mark',
      keys: ['Y'],
      when: (a) => a.group !== null,
      run: (a) => a.group?.(),
    },
    claim: { name: 'Write the claim', also: 'title name', group: 'mark', keys: ['c'], when: (a) => a.claim !== null, run: (a) => a.claim?.() },
    next: { name: 'Next', group: 'move', keys: ['ArrowDown', 'j'], run: (a) => a.step(1) },
    previous: { name: 'The one before', group: 'move', keys: ['ArrowUp', 'k'], run: (a) => a.step(-1) },
    nextGroup: { name: 'Next group', group: 'move', keys: ['ArrowRight'], run: (a) => a.place(1) },
    previousGroup: { name: 'Group before', group: 'move', keys: ['ArrowLeft'], run: (a) => a.place(-1) },
  },
} satisfies ActionList<WalkActs>;
