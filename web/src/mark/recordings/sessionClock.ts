import type { Schemas } from '@/api/client';

/**
 * What is added to a time of a transcript to have the recording's, in milliseconds: each stands off the clock of their session by its own
 * offset. The same rule as the server's.
 */
export const shiftOf = (transcript: Pick<Schemas['SourceLine'], 'offsetMs'> | undefined, recording: Pick<Schemas['SourceLine'], 'offsetMs'>) =>
  transcript === undefined ? 0 : transcript.offsetMs - recording.offsetMs;
