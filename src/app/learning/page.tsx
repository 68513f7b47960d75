import type { Metadata } from 'next';
import { LearningScreen } from '../../ui/learning/learning-screen';
import { learningOf } from '../learning';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Outcomes' };

export default async function LearningPage() {
  const { store, brief } = await currentBrief();
  return <LearningScreen learning={await learningOf(store, brief)} />;
}
