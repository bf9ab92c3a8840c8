import { useNavigate } from '@tanstack/react-router';
import { toast } from 'sonner';
import type { TextRange } from '@/mark/observations/place';
import type { ShownWords } from '@/mark/observations/writes';

/** The way from a selection, or from a mark, to passages like it. */
export function useFindMore(studyId: number, sourceId: number) {
  const navigate = useNavigate();
  return (what: TextRange | ShownWords) => {
    const tagId = 'tagIds' in what ? what.tagIds[0] : undefined;
    if ('id' in what && what.id < 0) toast('This mark is not sent yet; in a moment more can be found by it.');
    else if ('id' in what && tagId !== undefined)
      void navigate({ to: '/studies/$studyId/mark/more/$tagId', params: { studyId, tagId }, search: { like: what.id } });
    else void navigate({ to: '/studies/$studyId/mark/more', params: { studyId }, search: { source: sourceId, start: what.start, end: what.end } });
  };
}
