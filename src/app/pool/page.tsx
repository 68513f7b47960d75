import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { Suspense } from 'react';
import { connectionFor } from '../../core/connections/connection';
import { briefSieve } from '../../core/fit/brief-sieve';
import { formatView, parseView, TO_BE_HAD } from '../../core/pool/conditions';
import { askColumns } from '../../services/pool/ask-pool';
import { setChoices } from '../../services/pool/pool-sets';
import { readSettings } from '../../store/base/settings';
import { listSieves } from '../../store/pool/sieves';
import { fieldsOf } from '../../ui/pool/columns';
import { DENSITIES, type Density } from '../../ui/pool/density';
import { FIRST_ROWS } from '../../ui/pool/page-rows';
import { PoolScreen } from '../../ui/pool/pool-screen';
import { parametersOf, type SearchParams } from '../search-params';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Pool' };

/** The first rows come with the page, so that there is something to read before any script has run. */
export default async function PoolPage({ searchParams }: { searchParams: SearchParams }) {
  const { store, engine, brief, briefs } = await currentBrief();
  const asked = await parametersOf(searchParams);
  // a first visit shows what can be had, and not what somebody owns; one key shows the whole pool
  if (asked.size === 0) redirect(`/pool?${formatView({ parts: [TO_BE_HAD], sorts: [], columns: null })}`);
  const { parts, sorts, columns } = parseView(asked);
  const query = { parts, sorts, offset: 0, limit: FIRST_ROWS, histograms: [], fields: fieldsOf(columns) };
  const first = await askColumns(store, engine, brief, query).catch(() => null);
  const wanted = (await cookies()).get('density')?.value ?? 'usual';
  return (
    <Suspense>
      <PoolScreen
        first={first}
        briefId={brief.id}
        briefs={briefs.map(({ id, name }) => ({ id, name }))}
        ofBrief={{ name: brief.name, view: formatView(briefSieve(brief)).toString() }}
        sieves={listSieves(store)}
        sets={setChoices(store, briefs)}
        asks={connectionFor(readSettings(store).connections, 'figures')?.title ?? null}
        density={wanted in DENSITIES ? (wanted as Density) : 'usual'}
      />
    </Suspense>
  );
}
