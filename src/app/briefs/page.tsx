import type { Metadata } from 'next';
import { BriefsScreen } from '../../ui/briefs/briefs-screen';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Briefs' };

export default async function BriefsPage() {
  const { briefs, brief } = await currentBrief();
  return <BriefsScreen briefs={briefs} current={brief.id} />;
}
