/** Rows of the grid that are asked for at a time. */
export const PAGE_ROWS = 200;
/** Rows that come with the screen: more than the largest window shows. */
export const FIRST_ROWS = 100;
