/** A press becomes a drag after so many pixels. Written once: an object made anew at each drawing has every row that can be dragged drawn anew. */
export const dragsFrom = { activationConstraint: { distance: 6 } };
