/** Set once the tour was dismissed. */
export const TOUR_COOKIE = 'tour';
