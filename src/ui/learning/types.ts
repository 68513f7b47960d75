import type { Answer } from '../../contracts/calls';

export type RedirectOutcome = LearningShown['redirects'][number];
export type LearningShown = Answer<'GET /learning'>;
