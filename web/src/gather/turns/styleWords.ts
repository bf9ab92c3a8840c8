import type { Schemas } from '@/api/client';

/** How turns may be written in a transcript, in words. */
export const styleWords: Record<Schemas['TurnStyle'], string> = {
  nameAndColon: 'Name: words',
  timeAndName: 'a name and a time, such as [00:12:03] Name',
  nameOnItsOwnLine: 'a name on a line of its own',
  nameInBrackets: '[Name] words',
  nameAndDash: 'Name – words',
  changeMarks: '>> where another speaks',
  questionAndAnswer: 'Q. and A.',
  tableColumns: 'a table with a column of names',
  timesAlone: 'times without names',
  noTurns: 'no turns, paragraphs',
};
