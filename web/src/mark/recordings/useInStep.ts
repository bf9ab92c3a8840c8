import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useKept } from '@/shared/useKept';

const none: readonly never[] = [];
const isNumber = (value: unknown): value is number => typeof value === 'number';

/** Whether a source with words runs with a recording: it was attached to it, or is of the same session. */
const runsWith = (source: Schemas['SourceLine'], recording: Schemas['SourceLine']) =>
  source.length > 0 && (source.inStepWithId === recording.id || (recording.sessionId !== null && source.sessionId === recording.sessionId));

/** What is attached comes first, then transcripts, then other texts; each in the study's order. */
const firstShown = (recording: Schemas['SourceLine']) => (one: Schemas['SourceLine']) =>
  one.inStepWithId === recording.id ? 0 : one.speakers.length > 0 ? 1 : 2;

/** What runs in step with a recording: the transcript that was chosen last on this machine, or the first. */
export function useInStep(studyId: number, recording: Schemas['SourceLine']) {
  const sources = useQuery(queries.sources(studyId)).data ?? none;
  const [candidates, others] = useMemo(() => {
    const worded = sources.filter((s) => s.length > 0);
    const place = firstShown(recording);
    const byPlace = (all: Schemas['SourceLine'][]) => all.toSorted((a, b) => place(a) - place(b));
    return [byPlace(worded.filter((s) => runsWith(s, recording))), byPlace(worded.filter((s) => !runsWith(s, recording)))];
  }, [sources, recording]);
  const [chosen, choose] = useKept(`in-step-${recording.id}`, 0, isNumber);
  const found = candidates.find((s) => s.id === chosen) ?? candidates[0];
  const source = useQuery({ ...queries.source(found?.id ?? 0), enabled: found !== undefined }).data;
  const inStep = useQuery({ ...queries.wordsInStep(found?.id ?? 0), enabled: found !== undefined }).data;
  return { source, words: inStep?.spoken, estimated: inStep?.estimated ?? false, candidates, others, choose };
}
