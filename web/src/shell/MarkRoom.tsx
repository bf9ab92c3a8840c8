import { TurnCorrection } from '@/gather/corrections/TurnCorrection';
import { MarkPage } from '@/mark/reading/MarkPage';

/** The reading room with what other rooms put into it. */
export const MarkRoom = () => <MarkPage turnEditor={TurnCorrection} />;
