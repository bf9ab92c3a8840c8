import { useNavigate } from '@tanstack/react-router';
import { useSteps } from '@/api/useWrite';
import { usePageActions } from '@/parts/actions/registry';
import { useStudyId } from '@/shared/useStudyId';
import { everywhere, type Opening, type ShellActs } from './actions';
import type { Theme } from './theme';
import { useLeaving } from './useLeaving';

/** What can be done from anywhere; its keys are heard on every page of the team. */
export function useShellActions(show: (what: Opening) => void, theme: (theme: Theme) => void): ShellActs {
  const navigate = useNavigate();
  const studyId = useStudyId();
  const { undo, redo } = useSteps();
  const leave = useLeaving();
  const acts: ShellActs = { navigate, studyId, show, undo: () => void undo(studyId), redo: () => void redo(studyId), theme, leave };
  usePageActions(everywhere, acts, { inDialogs: true });
  return acts;
}
