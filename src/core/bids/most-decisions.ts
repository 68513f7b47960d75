/** Of so many names it may be asked at once what a decision rests on. */
export const MOST_DECISIONS = 100;
