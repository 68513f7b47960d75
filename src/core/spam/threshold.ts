/** A risk from here on is called spam: the odds are even there. */
export const SPAM_FROM = 50;
