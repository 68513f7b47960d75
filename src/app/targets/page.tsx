import type { Metadata } from 'next';
import { registrableDomain } from '../../core/names/domain';
import { targetDetail, targetsFor, workList } from '../../services/prospecting/prospects';
import { TargetsScreen } from '../../ui/prospecting/targets-screen';
import { parametersOf, type SearchParams } from '../search-params';
import { getEngine, getStore } from '../server';

export const metadata: Metadata = { title: 'Broken links' };

export default async function TargetsPage({ searchParams }: { searchParams: SearchParams }) {
  const store = await getStore();
  const url = (await parametersOf(searchParams)).get('url');
  const targets = await targetsFor(store, getEngine());
  const domain = targets.find((target) => target.url === url)?.domain ?? (url && domainOf(url));
  return (
    <TargetsScreen
      targets={targets}
      list={workList(store)}
      chosen={url && domain ? { url, domain, ...targetDetail(store, url, domain) } : null}
    />
  );
}

function domainOf(url: string): string | null {
  return registrableDomain(url)?.name ?? null;
}
