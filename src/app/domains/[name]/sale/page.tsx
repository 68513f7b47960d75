import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { displayName, registrableDomain } from '../../../../core/names/domain';
import { salePlan } from '../../../../services/selling/selling';
import { findDomain } from '../../../../store/domains/domains';
import { SaleScreen } from '../../../../ui/selling/sale-screen';
import { currentBrief } from '../../../server';

type Props = { params: Promise<{ name: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Sale of ${displayName(decodeURIComponent((await params).name)).slice(0, 60)}` };
}

export default async function SalePage({ params }: Props) {
  const { store, engine, brief } = await currentBrief();
  const domain = registrableDomain(decodeURIComponent((await params).name));
  const row = domain && findDomain(store, domain.name);
  if (!row) notFound();
  const plan = await salePlan(store, engine, brief, row);
  if (!plan) notFound();
  return <SaleScreen key={row.name} name={row.name} plan={plan} />;
}
