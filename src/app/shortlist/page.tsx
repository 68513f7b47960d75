import type { Metadata } from 'next';
import { readRates } from '../../store/database';
import { readShortlist } from '../../store/shortlist';
import { ShortlistScreen } from '../../ui/shortlist/shortlist-screen';
import { fitsFor } from '../fit';
import { currentBrief } from '../server';
import { domainView } from '../views';

export const metadata: Metadata = { title: 'Shortlist' };

export default async function ShortlistPage() {
  const { store, brief } = await currentBrief();
  const rates = readRates(store);
  const shortlist = readShortlist(store, brief.id);
  const fits = await fitsFor(
    shortlist.map(({ domain }) => domain),
    brief,
  );
  const entries = shortlist.map((entry, n) => ({
    ...entry,
    fit: fits[n],
    domain: domainView(entry.domain, true, rates),
  }));
  return <ShortlistScreen key={brief.id} brief={brief} entries={entries} />;
}
