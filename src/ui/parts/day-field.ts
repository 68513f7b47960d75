import { utc } from '@date-fns/utc';
import { formatISO } from 'date-fns';

/** A moment as a field of a day holds it, `2026-11-26`, UTC. @param at ms since 1970 UTC. */
export const dayField = (at: number): string => formatISO(utc(at), { representation: 'date' });
