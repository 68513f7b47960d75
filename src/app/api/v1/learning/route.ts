import { learningOf } from '../../../../services/learning/learning';
import { currentBrief } from '../../../server';
import { route } from '../../respond';

/** Outcomes held against what was estimated before, and what follows for the settings and the brief that is chosen. */
export const GET = route('GET /learning', async () => {
  const { store, engine, brief } = await currentBrief();
  return await learningOf(store, engine, brief);
});
