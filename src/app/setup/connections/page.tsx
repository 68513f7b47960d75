import type { Metadata } from 'next';
import { connectionViews } from '../../../services/connections/connections';
import { ConnectionsScreen } from '../../../ui/connections/connections-screen';
import { currentBrief } from '../../server';

export const metadata: Metadata = { title: 'Services you describe' };

export default async function ConnectionsPage() {
  const { store } = await currentBrief();
  return <ConnectionsScreen connections={connectionViews(store)} />;
}
