import type { FeedbackOf } from '@/api/queries';

export type View = FeedbackOf['view'];
export const views = ['waiting', 'kept', 'dismissed', 'nowhere', 'all'] as const satisfies readonly View[];
export const viewWords: Record<View, string> = { waiting: 'To decide', kept: 'Kept', dismissed: 'Dismissed', nowhere: 'In no study', all: 'Everything' };
