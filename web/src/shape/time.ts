/** Where time lies on the screen in Shape: the curves and the ruler below them share it, and one playhead. */

/** The list of treatments. */
export const LIST_WIDE = 250;
/** Names and values before the curves. */
export const NAMES_WIDE = 108;

const STATIONS = 68;
const PADDING = 8;
const BORDER = 1;
/** Inside the panel of the curves. */
export const INSIDE = 10;

/** From the left edge of the page to time 0. */
export const TIME_LEFT = STATIONS + PADDING + LIST_WIDE + PADDING + BORDER + INSIDE + NAMES_WIDE;
/** From the end of time to the right edge of the page. */
export const TIME_RIGHT = PADDING + BORDER + INSIDE;
