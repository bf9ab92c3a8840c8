import { useQueryClient } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { api, ask } from '@/api/client';
import { useSteps } from '@/api/useWrite';
import { outgoing } from '@/api/waiting/outgoing';
import type { Action } from '@/search/Palette';
import { setTheme, type Theme } from './theme';
import { useStudyId } from '@/shared/useStudyId';

const stages = ['gather', 'mark', 'sort', 'weigh', 'show'] as const;
const themes: Record<Theme, string> = { system: 'Light or dark as the system', light: 'Light', dark: 'Dark' };

export type Opening = 'keys' | 'steps' | 'password' | 'palette';

/** Leaves the workspace, here or everywhere. What waits to be sent stays in the browser for its person. */
export function useLeaving() {
  const cache = useQueryClient();
  const navigate = useNavigate();
  return (everywhere: boolean) =>
    void ask(everywhere ? api.POST('/api/me/sign-out-everywhere') : api.POST('/api/sign-out')).then(() => {
      outgoing.end();
      cache.clear();
      return navigate({ to: '/sign-in' });
    });
}

/** What can be done from anywhere, for the palette. */
export function useActions(show: (what: Opening) => void, onTheme: (theme: Theme) => void): Action[] {
  const navigate = useNavigate();
  const studyId = useStudyId();
  const { undo, redo } = useSteps();
  const leave = useLeaving();
  const inStudy = studyId === null ? [] : stages;
  return [
    ...inStudy.map((stage) => ({
      name: `${stage[0]!.toUpperCase()}${stage.slice(1)}`,
      also: 'stage room of this study',
      run: () => void navigate({ to: `/studies/$studyId/${stage}`, params: { studyId: studyId! } }),
    })),
    ...(studyId === null
      ? []
      : [
          { name: 'Participants', also: 'people attributes grid', run: () => void navigate({ to: '/studies/$studyId/gather/people', params: { studyId } }) },
          { name: 'Sessions', also: 'held moderator', run: () => void navigate({ to: '/studies/$studyId/gather/sessions', params: { studyId } }) },
          { name: 'History', also: 'trail day who did what', run: () => void navigate({ to: '/studies/$studyId/history', params: { studyId } }) },
          {
            name: 'Agreement',
            also: 'kappa alpha two people compare',
            run: () => void navigate({ to: '/studies/$studyId/weigh/agreement', params: { studyId } }),
          },
          { name: 'Notes', also: 'margin unsure remarks', run: () => void navigate({ to: '/studies/$studyId/mark/notes', params: { studyId } }) },
          {
            name: 'Find in this study',
            also: 'search words passages tag',
            key: 'F',
            run: () => void navigate({ to: '/studies/$studyId/mark/find', params: { studyId } }),
          },
          { name: 'Found, not reviewed', also: 'accept drop searches', run: () => void navigate({ to: '/studies/$studyId/mark/found', params: { studyId } }) },
          { name: 'Attachments', also: 'files', run: () => void navigate({ to: '/studies/$studyId/gather/attachments', params: { studyId } }) },
        ]),
    ...(studyId === null ? [] : [{ name: 'The study’s front page', run: () => void navigate({ to: '/studies/$studyId', params: { studyId } }) }]),
    { name: 'Studies', also: 'all list', run: () => void navigate({ to: '/' }) },
    { name: 'New study', also: 'make', run: () => void navigate({ to: '/', search: { make: true } }) },
    { name: 'Tag set', also: 'tags', run: () => void navigate({ to: '/tags' }) },
    { name: 'Look-alikes', also: 'tags merge duplicates', run: () => void navigate({ to: '/tags/look-alikes' }) },
    { name: 'New tag', also: 'make', run: () => void navigate({ to: '/tags', search: { tag: 'new' } }) },
    { name: 'Intake', also: 'feedback watches', run: () => void navigate({ to: '/intake' }) },
    { name: 'Exhibits', also: 'published', run: () => void navigate({ to: '/exhibits' }) },
    { name: 'Search everything', also: 'find words', run: () => void navigate({ to: '/search', search: {} }) },
    { name: 'People', also: 'accounts invite roles', run: () => void navigate({ to: '/people' }) },
    { name: 'Undo your last step', key: 'Ctrl Z', run: () => void undo(studyId) },
    { name: 'Redo it', key: 'Ctrl Shift Z', run: () => void redo(studyId) },
    { name: 'Your steps', also: 'undo history trail', key: 'u', run: () => show('steps') },
    { name: 'Keys of this page', also: 'keyboard help', key: '?', run: () => show('keys') },
    ...(Object.keys(themes) as Theme[]).map((theme) => ({
      name: themes[theme],
      also: 'theme colours',
      run: () => {
        setTheme(theme);
        onTheme(theme);
      },
    })),
    { name: 'Change your password', also: 'account', run: () => show('password') },
    { name: 'Sign out', run: () => leave(false) },
    { name: 'Sign out everywhere', run: () => leave(true) },
  ];
}
