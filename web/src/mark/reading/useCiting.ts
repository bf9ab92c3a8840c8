import { toast } from 'sonner';
import type { ClipboardEvent } from 'react';
import type { Schemas } from '@/api/client';
import type { TextRange } from '@/mark/observations/place';
import { clock } from '@/parts/words';
import { cite, wordsOf } from './cite';

const notYet = 'It is not known yet which words are masked. Copy again in a moment.';
const copied = 'Copied, with who says it and where.';

/** Puts a text where it can be pasted from. */
export const handOn = (text: string, said: string) =>
  void navigator.clipboard.writeText(text).then(
    () => toast(said),
    () => toast.error('The browser did not allow it. Press Ctrl C in the text instead.'),
  );

/** Hands on the words of a source: with who says them by the team's name for them, the time or paragraph, and a link; never what is masked. */
export function useCiting(
  source: Schemas['Source'],
  masks: readonly (TextRange & { replacement: string })[] | null,
  nameOf: (speakerId: number | null) => string,
) {
  const linkTo = (place: string) => new URL(`/studies/${source.studyId}/mark?source=${source.line.id}&${place}`, window.location.href).href;
  const cited = (words: TextRange, observation: number | null) => {
    if (!masks) return null;
    const at = source.turns.findIndex((t) => t.end > words.start);
    const turn = source.turns[at];
    return cite({
      words: wordsOf(source.text, words, masks),
      who: turn ? nameOf(turn.speakerId) : '',
      title: source.line.title,
      place: turn?.beginMs != null ? clock(turn.beginMs + source.line.offsetMs) : `¶ ${at + 1}`,
      link: linkTo(observation === null ? `place=${words.start}` : `at=${observation}`),
    });
  };
  return {
    /** Answers the browser's own copying, with plain and rich text. */
    answer: (event: ClipboardEvent, words: TextRange, observation: number | null) => {
      event.preventDefault();
      const quote = cited(words, observation);
      if (!quote) return void toast(notYet);
      event.clipboardData.setData('text/plain', quote.text);
      event.clipboardData.setData('text/html', quote.html);
      toast(copied);
    },
    words: (words: TextRange, observation: number | null) => {
      const quote = cited(words, observation);
      if (quote) handOn(quote.text, copied);
      else toast(notYet);
    },
    link: (observation: number) => handOn(linkTo(`at=${observation}`), 'The link to this observation is copied.'),
  };
}
