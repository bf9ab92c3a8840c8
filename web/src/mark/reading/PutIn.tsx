import { claimOf } from '@/shared/claim';
import { useQuery } from '@tanstack/react-query';
import { queries } from '@/api/queries';
import { PickByTitle } from '@/parts/PickByTitle';
import type { Onto } from './dragging';

/** The keys' way into a theme or an insight. */
export function PutIn({ studyId, onto, onClose }: { studyId: number; onto: Pick<Onto, 'theme' | 'insight'>; onClose: () => void }) {
  const themes = useQuery(queries.sorting(studyId)).data?.themes ?? [];
  const insights = useQuery(queries.insights(studyId)).data ?? [];
  const items = [
    ...themes.map(({ theme }) => ({ id: `theme-${theme.id}`, kind: 'Theme', title: claimOf(theme), pick: () => onto.theme(theme.id) })),
    ...insights.map(({ insight }) => ({ id: `insight-${insight.id}`, kind: 'Insight', title: insight.headline, pick: () => onto.insight(insight.id) })),
  ];
  return (
    <PickByTitle
      title="Put it in a theme or an insight"
      label="Theme or insight"
      items={items}
      none={items.length === 0 ? 'There is no theme and no insight in this study yet.' : 'None is called like that.'}
      onClose={onClose}
    />
  );
}
