/** Rows of the grid that are asked for at a time. */
export const PAGE_ROWS = 200;
