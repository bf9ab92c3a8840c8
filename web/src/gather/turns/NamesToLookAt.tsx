import { useQuery } from '@tanstack/react-query';
import { queries } from '@/api/queries';
import { count } from '@/parts/words';
import { LabelRow } from './LabelRow';

/** The names in a source that were not understood, and those that somebody has settled. */
export function NamesToLookAt({ studyId, sourceId, title }: { studyId: number; sourceId: number; title: string }) {
  const labels = useQuery(queries.sourceLook(sourceId)).data?.labels ?? [];
  const open = labels.filter((l) => !l.settled).length;
  if (labels.length === 0) return null;
  return (
    <div className="mt-3 mb-4 rounded-std border border-line bg-paper px-4 py-1">
      <h3 className="pt-2 font-semibold">{open > 0 ? `${count(open, 'name')} we are not sure about` : 'Every name is settled'}</h3>
      <ul aria-label={`Names to look at in ${title}`}>
        {labels.map((label) => (
          <LabelRow key={label.label} studyId={studyId} sourceId={sourceId} label={label} />
        ))}
      </ul>
    </div>
  );
}
