import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { displayName, registrableDomain } from '../../../../core/names/domain';
import { redirectPlan } from '../../../../services/redirects/redirects';
import { findDomain } from '../../../../store/domains/domains';
import { RedirectsScreen } from '../../../../ui/redirects/redirects-screen';
import { getStore } from '../../../server';

type Props = { params: Promise<{ name: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Redirects of ${displayName(decodeURIComponent((await params).name)).slice(0, 60)}` };
}

export default async function RedirectsPage({ params }: Props) {
  const store = await getStore();
  const domain = registrableDomain(decodeURIComponent((await params).name));
  const row = domain && findDomain(store, domain.name);
  if (!row) notFound();
  return <RedirectsScreen key={row.name} name={row.name} plan={await redirectPlan(store, row)} />;
}
