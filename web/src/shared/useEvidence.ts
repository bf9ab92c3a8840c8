import { useNavigate, useSearch } from '@tanstack/react-router';
import { useCallback } from 'react';
import type { EvidenceOf } from '@/api/queries';

/** The evidence drawer's place in the URL: what is open, how to open and close it. */
export function useEvidence() {
  const navigate = useNavigate();
  const evidence = useSearch({ from: '/team/studies/$studyId', select: (search) => search.evidence, structuralSharing: true });
  const open = useCallback((of: EvidenceOf) => void navigate({ to: '.', search: (before: object) => ({ ...before, evidence: of }) }), [navigate]);
  const close = useCallback(() => void navigate({ to: '.', search: (before: object) => ({ ...before, evidence: undefined }) }), [navigate]);
  return { evidence, open, close };
}
