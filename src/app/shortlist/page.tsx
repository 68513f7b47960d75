import type { Metadata } from 'next';
import { Suspense } from 'react';
import { RISKS, type Risk } from '../../core/bids/risk';
import { shortlistView } from '../../services/shortlist/shortlist-view';
import { ShortlistScreen } from '../../ui/shortlist/shortlist-screen';
import { parametersOf, type SearchParams } from '../search-params';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Shortlist' };

export default async function ShortlistPage({ searchParams }: { searchParams: SearchParams }) {
  const { store, engine, brief, briefs } = await currentBrief();
  const asked = (await parametersOf(searchParams)).get('risk');
  const risk = RISKS.includes(asked as Risk) ? (asked as Risk) : brief.risk;
  return (
    <Suspense>
      <ShortlistScreen key={brief.id} brief={brief} {...(await shortlistView(store, engine, brief, briefs, risk))} />
    </Suspense>
  );
}
