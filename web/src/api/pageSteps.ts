let page = '';
let done: number[] = [];
let undone: number[] = [];

const here = () => {
  if (window.location.pathname === page) return;
  page = window.location.pathname;
  done = [];
  undone = [];
};

/**
 * Steps of studies that were made on a page outside them, such as the intake: there the keys for undo and redo mean these, and not one's latest step anywhere.
 * They are forgotten with the page; the list of one's steps in the study has them still.
 */
export const pageSteps = {
  made(actionId: number) {
    here();
    done.push(actionId);
    undone = [];
  },
  /** The step to undo next; null when there is none of this page. */
  back(): number | null {
    here();
    const step = done.pop();
    if (step !== undefined) undone.push(step);
    return step ?? null;
  },
  /** The step to redo next. */
  again(): number | null {
    here();
    const step = undone.pop();
    if (step !== undefined) done.push(step);
    return step ?? null;
  },
  /** It was undone where it happened, and not by the key. */
  taken(actionId: number) {
    if (done.includes(actionId)) undone.push(actionId);
    done = done.filter((step) => step !== actionId);
  },
};
