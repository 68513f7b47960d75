import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { CONNECTION_USES, type ConnectionUse } from '../../../../core/connections/connection';
import { connectionViews } from '../../../../services/connections/connections';
import { registeredName } from '../../../../store/domains/domains';
import { ConnectionForm } from '../../../../ui/connections/connection-form';
import { DescribedVenue } from '../../../../ui/connections/described-venue';
import Link from '../../../../ui/link';
import { parametersOf, type SearchParams } from '../../../search-params';
import { currentBrief, getEngine } from '../../../server';

export const metadata: Metadata = { title: 'Describe a service' };

/** Names of venues that are offered to be chosen from. */
const MOST_VENUES = 100;

interface Props {
  params: Promise<{ id: string }>;
  searchParams: SearchParams;
}

/** One service: a new one under `new`, for what `use` says. */
export default async function ConnectionPage({ params, searchParams }: Props) {
  const { store, brief } = await currentBrief();
  const { id } = await params;
  const asked = (await parametersOf(searchParams)).get('use');
  const view = id === 'new' ? null : connectionViews(store).find((one) => one.id === id);
  if (view === undefined) notFound();
  const use: ConnectionUse = CONNECTION_USES.find((one) => one === asked) ?? 'registrar';
  const example = { domain: registeredName(store) ?? 'example.org', words: brief.subjectWords[0] ?? 'honey' };
  const venues = await getEngine().wordsOfChoice('venue', MOST_VENUES);
  return (
    <div className="mx-auto max-w-[1320px] px-6 py-6">
      <p className="small">
        <Link className="set" href="/setup/connections">
          Services you describe
        </Link>
      </p>
      <h1>{view?.description.title ?? 'Describe a service'}</h1>
      {view?.description.use === 'listings' && <DescribedVenue venues={[{ id, title: view.description.title }]} />}
      <ConnectionForm key={id} view={view} use={use} example={example} venues={venues} />
    </div>
  );
}
