import type { Schemas } from '@/api/client';

/** The parts of a source's text of which nobody is known to have said them: turns of nobody known, or, without turns, its paragraphs. */
export function unknownParts(source: Pick<Schemas['Source'], 'text' | 'turns' | 'line'>): { start: number; end: number }[] {
  if (source.turns.length === 0) return [...source.text.matchAll(/[^\n]+/g)].map((line) => ({ start: line.index, end: line.index + line[0].length }));
  const known = new Set(source.line.speakers.filter((s) => s.isTeam || s.participantId !== null).map((s) => s.id));
  return source.turns.filter((t) => t.speakerId === null || !known.has(t.speakerId)).map(({ start, end }) => ({ start, end }));
}
