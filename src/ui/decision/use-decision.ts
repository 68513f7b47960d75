'use client';

import { useQueries, useQuery } from '@tanstack/react-query';
import DataLoader from 'dataloader';
import { useContext } from 'react';
import type { Decision } from '../../contracts/decision';
import { MOST_DECISIONS } from '../../core/bids/most-decisions';
import { call } from '../api';
import { BriefContext } from './brief-context';

/** Names that are asked for at about the same time go together. */
const TOGETHER_MS = 30;
const loaders = new Map<number, DataLoader<string, Decision>>();

function loaderOf(brief: number): DataLoader<string, Decision> {
  const known = loaders.get(brief);
  if (known) return known;
  const loader = new DataLoader<string, Decision>(
    async (names) => {
      const { decisions } = await call('POST /decisions', { body: { names: [...names], brief } });
      return decisions;
    },
    // what was answered is kept with all other answers of the server
    { cache: false, maxBatchSize: MOST_DECISIONS, batchScheduleFn: (ask) => setTimeout(ask, TOGETHER_MS) },
  );
  loaders.set(brief, loader);
  return loader;
}

const asked = (brief: number, name: string | undefined) => ({
  queryKey: ['decision', brief, name],
  enabled: name !== undefined && brief > 0,
  queryFn: () => loaderOf(brief).load(name ?? ''),
});

/** What a decision on a domain rests on, for the current brief; undefined: not known yet. */
export function useDecision(name: string | undefined): Decision | undefined {
  const brief = useContext(BriefContext);
  return useQuery(asked(brief, name)).data;
}

/** The same of several that stand beside each other, as far as they are known. */
export function useDecisionsOn(names: readonly string[]): Decision[] {
  const brief = useContext(BriefContext);
  const answers = useQueries({ queries: names.map((name) => asked(brief, name)) });
  return answers.flatMap(({ data }) => data ?? []);
}
