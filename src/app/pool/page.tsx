import type { Metadata } from 'next';
import { Suspense } from 'react';
import { parseView } from '../../core/pool/conditions';
import { listSieves } from '../../store/sieves';
import { listSources } from '../../store/sources';
import { PAGE_ROWS } from '../../ui/pool/page-rows';
import { PoolScreen } from '../../ui/pool/pool-screen';
import { askPool } from '../ask-pool';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Pool' };

type Props = { searchParams: Promise<Record<string, string | string[] | undefined>> };

/** The first rows come with the page, so that there is something to read before any script has run. */
export default async function PoolPage({ searchParams }: Props) {
  const { store, brief } = await currentBrief();
  const parameters = new URLSearchParams();
  for (const [key, value] of Object.entries(await searchParams))
    for (const one of [value ?? []].flat()) parameters.append(key, one);
  const { conditions, sort } = parseView(parameters);
  const first = await askPool({ conditions, sort, offset: 0, limit: PAGE_ROWS, histograms: [] }).catch(() => null);
  const sources = listSources(store)
    .filter((source) => source.kind !== 'links')
    .map(({ id, name }) => ({ id, name }));
  return (
    <Suspense>
      <PoolScreen first={first} briefId={brief.id} sieves={listSieves(store)} sources={sources} />
    </Suspense>
  );
}
