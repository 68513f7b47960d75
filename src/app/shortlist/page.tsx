import type { Metadata } from 'next';
import { readShortlist } from '../../store/shortlist';
import { ShortlistScreen } from '../../ui/shortlist/shortlist-screen';
import { currentBrief } from '../server';
import { domainView } from '../views';

export const metadata: Metadata = { title: 'Shortlist' };

export default async function ShortlistPage() {
  const { store, brief } = await currentBrief();
  const entries = readShortlist(store, brief.id).map((entry) => ({ ...entry, domain: domainView(entry.domain, true) }));
  return <ShortlistScreen key={brief.id} brief={brief} entries={entries} />;
}
