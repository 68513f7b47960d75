import type { Metadata } from 'next';
import { Suspense } from 'react';
import { listSieves } from '../../store/sieves';
import { listSources } from '../../store/sources';
import { PoolScreen } from '../../ui/pool/pool-screen';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Pool' };

export default async function PoolPage() {
  const { store, brief } = await currentBrief();
  const sources = listSources(store)
    .filter((source) => source.kind !== 'links')
    .map(({ id, name }) => ({ id, name }));
  return (
    <Suspense>
      <PoolScreen briefId={brief.id} sieves={listSieves(store)} sources={sources} />
    </Suspense>
  );
}
