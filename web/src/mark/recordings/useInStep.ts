import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';

/** The transcript of the session of a recording, the first where there are several: what runs in step with it. */
export function useInStep(studyId: number, recording: Schemas['SourceLine']) {
  const sources = useQuery(queries.sources(studyId)).data ?? [];
  const found = sources.find((s) => recording.sessionId !== null && s.sessionId === recording.sessionId && s.length > 0);
  const source = useQuery({ ...queries.source(found?.id ?? 0), enabled: found !== undefined }).data;
  const words = useQuery({ ...queries.wordsInStep(found?.id ?? 0), enabled: found !== undefined }).data;
  return { source, words };
}
