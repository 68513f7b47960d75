import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { displayName, registrableDomain } from '../../../../core/names/domain';
import { rebuildPlan } from '../../../../services/rebuild/rebuild';
import { findDomain } from '../../../../store/domains/domains';
import { RebuildScreen } from '../../../../ui/rebuild/rebuild-screen';
import { getStore } from '../../../server';

type Props = { params: Promise<{ name: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Rebuild of ${displayName(decodeURIComponent((await params).name)).slice(0, 60)}` };
}

export default async function RebuildPage({ params }: Props) {
  const store = await getStore();
  const domain = registrableDomain(decodeURIComponent((await params).name));
  const row = domain && findDomain(store, domain.name);
  if (!row) notFound();
  return <RebuildScreen key={row.name} name={row.name} plan={await rebuildPlan(store, row)} />;
}
