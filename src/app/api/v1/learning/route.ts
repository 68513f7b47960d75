import { learningOf } from '../../../../services/learning/learning';
import { currentBrief } from '../../../server';
import { handle } from '../../respond';

/** Outcomes held against what was estimated before, and what follows for the settings and the brief that is chosen. */
export const GET = handle(async () => {
  const { store, engine, brief } = await currentBrief();
  return Response.json(await learningOf(store, engine, brief));
});
