import type { Metadata } from 'next';
import { LearningScreen } from '../../ui/learning/learning-screen';
import { learningOf } from '../learning';
import { getStore } from '../server';

export const metadata: Metadata = { title: 'Outcomes' };

export default async function LearningPage() {
  return <LearningScreen learning={learningOf(await getStore())} />;
}
