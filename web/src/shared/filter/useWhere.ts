import { useNavigate, useSearch } from '@tanstack/react-router';
import { useCallback } from 'react';
import { asking, type Where } from './where';

/** The conditions under which a page lists or counts: they stand in its address, and the evidence drawer over it holds to them. */
export function useWhere() {
  const navigate = useNavigate();
  // Nothing else in the address makes a page count anew.
  const where = useSearch({ from: '/team/studies/$studyId', select: (search) => search.where, structuralSharing: true });
  const setWhere = useCallback(
    (next: Where) => void navigate({ to: '.', search: (before: object) => ({ ...before, where: asking(next) }), replace: true }),
    [navigate],
  );
  return { where, setWhere };
}
