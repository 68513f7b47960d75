import type { Metadata } from 'next';
import { learningOf } from '../../services/learning/learning';
import { LearningScreen } from '../../ui/learning/learning-screen';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Outcomes' };

export default async function LearningPage() {
  const { store, engine, brief } = await currentBrief();
  return <LearningScreen learning={await learningOf(store, engine, brief)} />;
}
