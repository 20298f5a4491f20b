/** A list under a screen is shown so many rows at a time. */
export const PAGE_ROWS = 20;
