import { learningOf } from '../../../learning';
import { getStore } from '../../../server';
import { handle } from '../../respond';

/** Outcomes held against what was estimated before, and what follows for the settings. */
export const GET = handle(async () => Response.json(learningOf(await getStore())));
