import { useQuery } from '@tanstack/react-query';
import type { Answer } from '../../contracts/calls';
import { SCORES, scoreNameAt } from '../../core/formats/list-figures';
import { call } from '../api';

export type Known = Answer<'GET /pool/known'> | null;

/** Of how many domains each fact is known, and the names of the scores that lists state; null until it is heard. */
export function useKnown(): Known {
  const { data = null } = useQuery({
    queryKey: ['pool', 'known'],
    queryFn: ({ signal }) => call('GET /pool/known', { signal }),
  });
  return data;
}

/** The name of the score that stands at a place for one; null: nobody has it, or the fact is no such place. */
export const scoreAt = (fact: string, known: Known): string | null => scoreNameAt(fact, known?.scores ?? []) ?? null;

/** Whether a fact can be chosen: of the places for scores the first, and those that have a name. */
export const isThere = (fact: string, known: Known): boolean =>
  fact === SCORES[0] || scoreNameAt(fact, known?.scores ?? []) !== null;
