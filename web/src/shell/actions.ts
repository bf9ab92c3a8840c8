import type { useNavigate } from '@tanstack/react-router';
import type { ActionList } from '@/parts/actions/actions';
import type { Theme } from './theme';

/** A dialog that opens over every page. */
export type Opening = 'keys' | 'steps' | 'password' | 'palette';

/** What is done from anywhere. */
export interface ShellActs {
  navigate: ReturnType<typeof useNavigate>;
  /** The study that is open; null outside of studies. */
  studyId: number | null;
  show: (what: Opening) => void;
  undo: () => void;
  redo: () => void;
  theme: (theme: Theme) => void;
  leave: (everywhere: boolean) => void;
}

const inStudy = (a: ShellActs) => a.studyId !== null;
const params = (a: ShellActs) => ({ studyId: a.studyId! });
const stage = (
  name: string,
  to: '/studies/$studyId/gather' | '/studies/$studyId/mark' | '/studies/$studyId/sort' | '/studies/$studyId/weigh' | '/studies/$studyId/show',
) => ({ name, also: 'stage room of this study', group: 'go', keys: [], when: inStudy, run: (a: ShellActs) => a.navigate({ to, params: params(a) }) }) as const;

/** Keys that work on every page of the team, and where one can go. */
export const everywhere = {
  title: 'Everywhere',
  last: true,
  actions: {
    gather: stage('Gather', '/studies/$studyId/gather'),
    mark: stage('Mark', '/studies/$studyId/mark'),
    sort: stage('Sort', '/studies/$studyId/sort'),
    weigh: stage('Weigh', '/studies/$studyId/weigh'),
    display: stage('Show', '/studies/$studyId/show'),
    participants: {
      name: 'Participants',
      also: 'people attributes grid',
      group: 'go',
      keys: [],
      when: inStudy,
      run: (a) => a.navigate({ to: '/studies/$studyId/gather/people', params: params(a) }),
    },
    sessions: {
      name: 'Sessions',
      also: 'held moderator',
      group: 'go',
      keys: [],
      when: inStudy,
      run: (a) => a.navigate({ to: '/studies/$studyId/gather/sessions', params: params(a) }),
    },
    history: {
      name: 'History',
      also: 'trail day who did what',
      group: 'go',
      keys: [],
      when: inStudy,
      run: (a) => a.navigate({ to: '/studies/$studyId/history', params: params(a) }),
    },
    agreement: {
      name: 'Agreement',
      also: 'kappa alpha two people compare',
      group: 'go',
      keys: [],
      when: inStudy,
      run: (a) => a.navigate({ to: '/studies/$studyId/weigh/agreement', params: params(a) }),
    },
    notes: {
      name: 'Notes',
      also: 'margin unsure remarks',
      group: 'go',
      keys: [],
      when: inStudy,
      run: (a) => a.navigate({ to: '/studies/$studyId/mark/notes', params: params(a) }),
    },
    find: {
      name: 'Find in this study',
      says: 'find words in all of this study',
      also: 'search words passages tag',
      group: 'go',
      keys: ['F'],
      when: inStudy,
      run: (a) => a.navigate({ to: '/studies/$studyId/mark/find', params: params(a) }),
    },
    found: {
      name: 'Found, not reviewed',
      also: 'accept drop searches',
      group: 'go',
      keys: [],
      when: inStudy,
      run: (a) => a.navigate({ to: '/studies/$studyId/mark/found', params: params(a) }),
    },
    attachments: {
      name: 'Attachments',
      also: 'files',
      group: 'go',
      keys: [],
      when: inStudy,
      run: (a) => a.navigate({ to: '/studies/$studyId/gather/attachments', params: params(a) }),
    },
    frontPage: { name: 'The study’s front page', group: 'go', keys: [], when: inStudy, run: (a) => a.navigate({ to: '/studies/$studyId', params: params(a) }) },
    studies: { name: 'Studies', also: 'all list', group: 'go', keys: [], run: (a) => a.navigate({ to: '/' }) },
    newStudy: { name: 'New study', also: 'make', group: 'go', keys: [], run: (a) => a.navigate({ to: '/', search: { make: true } }) },
    tagSet: { name: 'Tag set', also: 'tags', group: 'go', keys: [], run: (a) => a.navigate({ to: '/tags' }) },
    lookAlikes: { name: 'Look-alikes', also: 'tags merge duplicates', group: 'go', keys: [], run: (a) => a.navigate({ to: '/tags/look-alikes' }) },
    newTag: { name: 'New tag', also: 'make', group: 'go', keys: [], run: (a) => a.navigate({ to: '/tags', search: { tag: 'new' } }) },
    intake: { name: 'Intake', also: 'feedback watches', group: 'go', keys: [], run: (a) => a.navigate({ to: '/intake' }) },
    exhibits: { name: 'Exhibits', also: 'published', group: 'go', keys: [], run: (a) => a.navigate({ to: '/exhibits' }) },
    search: { name: 'Search everything', also: 'find words', group: 'go', keys: [], run: (a) => a.navigate({ to: '/search', search: {} }) },
    help: { name: 'Help', says: 'how things are done', also: 'guide manual first ten minutes', group: 'go', keys: [], run: (a) => a.navigate({ to: '/help' }) },
    people: { name: 'People', also: 'accounts invite roles', group: 'go', keys: [], run: (a) => a.navigate({ to: '/people' }) },
    palette: { name: 'Find or do anything', group: 'go', keys: ['Ctrl+k'], inFields: true, byKey: true, run: (a) => a.show('palette') },
    undo: { name: 'Undo your last step', group: 'go', keys: ['Ctrl+z'], run: (a) => a.undo() },
    redo: { name: 'Redo it', group: 'go', keys: ['Ctrl+Shift+z', 'Ctrl+y'], shown: 'Ctrl Shift Z', run: (a) => a.redo() },
    steps: {
      name: 'Your steps',
      says: 'your steps, each with undo',
      also: 'undo history trail',
      group: 'go',
      keys: ['u', 'U'],
      shown: 'u',
      run: (a) => a.show('steps'),
    },
    keys: { name: 'Keys of this page', also: 'keyboard help', group: 'go', keys: ['?'], run: (a) => a.show('keys') },
    asSystem: { name: 'Light or dark as the system', also: 'theme colours', group: 'look', keys: [], run: (a) => a.theme('system') },
    light: { name: 'Light', also: 'theme colours', group: 'look', keys: [], run: (a) => a.theme('light') },
    dark: { name: 'Dark', also: 'theme colours', group: 'look', keys: [], run: (a) => a.theme('dark') },
    password: { name: 'Change your password', also: 'account', group: 'go', keys: [], run: (a) => a.show('password') },
    signOut: { name: 'Sign out', group: 'go', keys: [], run: (a) => a.leave(false) },
    signOutEverywhere: { name: 'Sign out everywhere', group: 'go', keys: [], run: (a) => a.leave(true) },
  },
} satisfies ActionList<ShellActs>;
