import type { FocusEvent } from 'react';

/**
 * For a radio: it is chosen when an arrow brings the focus to it from another one of its group, however short the key is pressed. (Radix
 * chooses it only while the key is still down.)
 */
export const chosenByArrow = (choose: () => void) => (event: FocusEvent<HTMLElement>) => {
  const from = event.relatedTarget;
  if (from?.getAttribute('role') === 'radio' && from.closest('[role="radiogroup"]') === event.currentTarget.closest('[role="radiogroup"]')) choose();
};
