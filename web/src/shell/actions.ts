import type { NavigateOptions, useNavigate } from '@tanstack/react-router';
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
type StudyPage = Extract<NonNullable<NavigateOptions['to']>, `/studies/$studyId/${string}`>;
/** A page of the study that is open, found by its name and by other words for it. */
const page = (name: string, also: string, to: StudyPage) =>
  ({ name, also, group: 'go', keys: [], when: inStudy, run: (a: ShellActs) => a.navigate({ to, params: params(a) } as NavigateOptions) }) as const;
const stage = (name: string, to: StudyPage) => page(name, 'stage room of this study', to);

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
    participants: page('Participants', 'people attributes grid', '/studies/$studyId/gather/people'),
    sessions: page('Sessions', 'held moderator', '/studies/$studyId/gather/sessions'),
    history: page('History', 'trail day who did what', '/studies/$studyId/history'),
    agreement: page('Agreement', 'kappa alpha two people compare', '/studies/$studyId/weigh/agreement'),
    notes: page('Notes', 'margin unsure remarks', '/studies/$studyId/mark/notes'),
    outline: page('Themes, outline', 'text print read', '/studies/$studyId/sort/outline'),
    suggestions: page('Suggestions', 'help cluster group themes', '/studies/$studyId/sort/suggestions'),
    whoNext: page('Who next', 'whom to talk to saturation recruit gaps', '/studies/$studyId/sort/who-next'),
    find: {
      name: 'Find in this study',
      says: 'find words in all of this study',
      also: 'search words passages tag',
      group: 'go',
      keys: ['F'],
      when: inStudy,
      run: (a) => a.navigate({ to: '/studies/$studyId/mark/find', params: params(a) }),
    },
    found: page('Found, not reviewed', 'accept drop searches', '/studies/$studyId/mark/found'),
    attachments: page('Attachments', 'files', '/studies/$studyId/gather/attachments'),
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
