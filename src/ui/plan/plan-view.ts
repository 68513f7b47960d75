import type { Answer } from '../../contracts/calls';

export type PlanView = Answer<'GET /plan'>;
