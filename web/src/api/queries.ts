import { gather } from './queries/gather';
import { mark } from './queries/mark';
import { show } from './queries/show';
import { sort } from './queries/sort';
import { weigh } from './queries/weigh';
import { workspace } from './queries/workspace';

export type { AgreementOf, EvidenceOf, FeedbackOf, PassagesOf, PassageUnit, TrailOf, UnsortedBy, UnsortedOf } from './queries/asked';

/** Everything that is asked of the server, by room. */
export const queries = { ...workspace, ...gather, ...mark, ...sort, ...weigh, ...show };
