import { useNavigate, useSearch } from '@tanstack/react-router';
import { asking, type Where } from './where';

/** The conditions under which a page lists or counts: they stand in its address, and the evidence drawer over it holds to them. */
export function useWhere() {
  const navigate = useNavigate();
  const { where } = useSearch({ from: '/team/studies/$studyId' });
  const setWhere = (next: Where) => void navigate({ to: '.', search: (before: object) => ({ ...before, where: asking(next) }), replace: true });
  return { where, setWhere };
}
