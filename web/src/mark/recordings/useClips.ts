import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useOutgoing } from '@/api/waiting/useOutgoing';
import { shownMarks } from '@/mark/observations/writes';
import type { Clip } from './ClipLanes';
import { shiftOf } from './sessionClock';
import { useInStep } from './useInStep';
import { timeOf } from './spokenWords';

const none: readonly never[] = [];

/** The clips of a recording, with the marks in the words of the transcript in step at the time in which they are said. */
export function useClips(studyId: number, recording: Schemas['SourceLine'], stored: readonly Schemas['Observation'][]) {
  const { waiting } = useOutgoing();
  const { source: transcript, words, estimated, candidates, others, choose } = useInStep(studyId, recording);
  const offset = shiftOf(transcript?.line, recording);
  const wordMarks = useQuery({ ...queries.observations(transcript?.line.id ?? 0), enabled: transcript !== undefined }).data ?? none;
  const clips = useMemo(() => shownMarks(stored, waiting, recording.id, 'time'), [stored, waiting, recording.id]);
  const inWords = useMemo(() => (transcript ? shownMarks(wordMarks, waiting, transcript.line.id) : none), [wordMarks, waiting, transcript]);
  const hung = useMemo<Clip[]>(
    () =>
      [
        ...clips.map((mark) => ({ mark, beginMs: mark.beginMs, endMs: mark.endMs, inWords: false as const })),
        ...inWords.flatMap((mark) => {
          const time = words ? timeOf(words, mark) : null;
          return time ? [{ mark, beginMs: time.beginMs + offset, endMs: time.endMs + offset, inWords: true as const }] : [];
        }),
      ].toSorted((a, b) => a.beginMs - b.beginMs || b.endMs - a.endMs),
    [clips, inWords, words, offset],
  );
  return { clips, inWords, hung, transcript, words, offset, estimated, transcripts: { candidates, others, choose } };
}
