import type { Metadata } from 'next';
import { listLastActs } from '../../services/acts/acts';
import { ActsScreen } from '../../ui/acts-screen';
import { getStore } from '../server';

export const metadata: Metadata = { title: 'Last acts' };

export default async function ActsPage() {
  return <ActsScreen acts={listLastActs(await getStore())} />;
}
