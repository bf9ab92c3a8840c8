import type { ActionList } from '@/parts/actions/actions';
import type { Schemas } from '@/api/client';

/** What is done with a name that was not understood. */
export interface LabelActs {
  say: (kind: Schemas['LabelKind']) => void;
  step: (by: 1 | -1) => void;
}

export const labels = {
  title: 'On a name',
  actions: {
    speaker: { name: 'Speaker', group: 'mark', keys: ['s', 'S'], shown: 's', run: (a) => a.say('speaker') },
    team: { name: 'Team', group: 'mark', keys: ['t', 'T'], shown: 't', run: (a) => a.say('team') },
    noSpeaker: { name: 'No speaker', group: 'mark', keys: ['n', 'N'], shown: 'n', run: (a) => a.say('noSpeaker') },
    next: { name: 'The next', group: 'move', keys: ['ArrowDown', 'j'], shown: '↓', run: (a) => a.step(1) },
    previous: { name: 'The one before', group: 'move', keys: ['ArrowUp', 'k'], shown: '↑', run: (a) => a.step(-1) },
  },
} satisfies ActionList<LabelActs>;
