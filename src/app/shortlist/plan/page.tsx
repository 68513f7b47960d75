import type { Metadata } from 'next';
import { RISKS, type Risk } from '../../../core/bids/risk';
import { planFor } from '../../../services/plan/plan';
import { PlanScreen } from '../../../ui/plan/plan-screen';
import { parametersOf, type SearchParams } from '../../search-params';
import { currentBrief } from '../../server';

export const metadata: Metadata = { title: 'Bid plan' };

export default async function PlanPage({ searchParams }: { searchParams: SearchParams }) {
  const { store, engine, brief } = await currentBrief();
  const asked = (await parametersOf(searchParams)).get('risk');
  const risk = RISKS.includes(asked as Risk) ? (asked as Risk) : brief.risk;
  return <PlanScreen key={brief.id} plan={await planFor(store, engine, brief, risk)} chosen={brief.risk} />;
}
