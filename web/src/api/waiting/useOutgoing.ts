import { useSyncExternalStore } from 'react';
import { outgoing, type Outgoing } from './outgoing';

/** What waits to be sent, and whether the way to the server is open. */
export const useOutgoing = (): Outgoing => useSyncExternalStore(outgoing.subscribe, outgoing.state);
