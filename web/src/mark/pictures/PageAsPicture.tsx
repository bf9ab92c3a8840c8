import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';

/** The number of a page of a .pdf: the page is kept as a picture, so that its parts can be marked, and opened. */
export function PageAsPicture({ studyId, sourceId, page }: { studyId: number; sourceId: number; page: number }) {
  const navigate = useNavigate();
  const there = useQuery(queries.sources(studyId)).data?.find((s) => s.stillOfId === sourceId && s.stillPage === page);
  const open = (id: number) => void navigate({ to: '/studies/$studyId/mark', params: { studyId }, search: { source: id } });
  const keep = useWrite(() => ask(api.POST('/api/sources/{id}/pages/{number}/picture', { params: { path: { id: sourceId, number: page } } })));
  return (
    <button
      type="button"
      disabled={keep.isPending}
      title={there ? 'Open this page as a picture' : 'Keep this page as a picture, and open it'}
      className="min-h-6 text-[11.5px] text-sky hover:underline"
      onClick={() => (there ? open(there.id) : keep.mutate(undefined, { onSuccess: (step) => step.id !== null && open(step.id) }))}
    >
      page {page}
    </button>
  );
}
