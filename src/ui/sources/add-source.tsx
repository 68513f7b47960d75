'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import { call } from '../api';
import { ActionForm, Labelled } from '../fields';
import { CrawlOptions, crawlOptionsOf, linesOf } from './crawl-options';
import { KeywordsFile, SalesFile } from './figure-files';
import { LinksForm } from './links-form';
import { ListImport } from './list-import';
import { ReferrersForm } from './referrers-form';
import { VenueForm } from './venue-form';
import { WatchForm } from './watches';

const KINDS = [
  { id: 'crawl', label: 'Crawl' },
  { id: 'search', label: 'Search' },
  { id: 'referrers', label: 'Referring pages' },
  { id: 'list', label: 'List' },
  { id: 'feed', label: 'Venue' },
  { id: 'zones', label: 'Zone pair' },
  { id: 'links', label: 'Backlinks' },
  { id: 'watch', label: 'Watch' },
  { id: 'sales', label: 'Sales' },
  { id: 'keywords', label: 'Keywords' },
];

interface AddSourceProps {
  briefId: number;
  trustedSites: string[];
  excludedEndings: string[];
}

/** Adds a source of any kind. */
export function AddSource({ briefId, trustedSites, excludedEndings }: AddSourceProps) {
  const router = useRouter();
  const asked = useSearchParams().get('add');
  const [kind, setKind] = useState(KINDS.some(({ id }) => id === asked) ? (asked ?? 'crawl') : 'crawl');
  const started = (source: { id: number }) => router.push(`/sources/${source.id}`);
  return (
    // room below: what shrinks beside it does not pull the form away from under the pointer
    <section
      aria-labelledby="add"
      className="border-l border-rule pb-[50vh] pl-8 has-[[data-wide]]:order-first has-[[data-wide]]:border-0 has-[[data-wide]]:pb-6 has-[[data-wide]]:pl-0"
    >
      <h1 id="add">Add a source</h1>
      <Tabs.Root value={kind} onValueChange={setKind} className="mt-2">
        <Tabs.List className="flex flex-wrap gap-x-4 border-b border-rule" aria-label="Kind of source">
          {KINDS.map(({ id, label }) => (
            <Tabs.Trigger
              key={id}
              value={id}
              className="border-b-2 border-transparent py-1.5 text-muted data-[state=active]:border-damson data-[state=active]:font-semibold data-[state=active]:text-ink"
            >
              {label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="crawl" className="pt-3">
          <CrawlForm
            briefId={briefId}
            trustedSites={trustedSites}
            excludedEndings={excludedEndings}
            onStarted={started}
          />
        </Tabs.Content>
        <Tabs.Content value="search" className="pt-3">
          <SearchForm />
        </Tabs.Content>
        <Tabs.Content value="referrers" className="pt-3">
          <ReferrersForm excludedEndings={excludedEndings} />
        </Tabs.Content>
        <Tabs.Content value="list" className="pt-3">
          <ListImport excludedEndings={excludedEndings} onStarted={started} />
        </Tabs.Content>
        <Tabs.Content value="feed" className="pt-3">
          <VenueForm onStarted={started} />
        </Tabs.Content>
        <Tabs.Content value="zones" className="pt-3">
          <ZonesForm excludedEndings={excludedEndings} onStarted={started} />
        </Tabs.Content>
        <Tabs.Content value="links" className="pt-3">
          <LinksForm
            briefId={briefId}
            excludedEndings={excludedEndings}
            trustedSites={trustedSites}
            onStarted={started}
          />
        </Tabs.Content>
        <Tabs.Content value="watch" className="pt-3">
          <WatchForm excludedEndings={excludedEndings} />
        </Tabs.Content>
        <Tabs.Content value="sales" className="pt-3">
          <SalesFile />
        </Tabs.Content>
        <Tabs.Content value="keywords" className="pt-3">
          <KeywordsFile />
        </Tabs.Content>
      </Tabs.Root>
    </section>
  );
}

type Started = (source: { id: number }) => void;

function CrawlForm({ briefId, trustedSites, excludedEndings, onStarted }: AddSourceProps & { onStarted: Started }) {
  const router = useRouter();
  const asked = useSearchParams();
  const [seeds, setSeeds] = useState(asked.getAll('seed').join('\n'));
  return (
    <ActionForm
      label="Start the crawl"
      busyLabel="Starting"
      act={async (form) => {
        const body = { seeds: linesOf(seeds), ...crawlOptionsOf(form) };
        onStarted((await call('POST /sources/crawls', { body })).source);
      }}
      other={{
        label: 'Try the seeds first',
        act: async () => {
          const { job } = await call('POST /sources/crawls/trials', { body: { seeds: linesOf(seeds) } });
          router.push(`/sources/trials/${job.id}`);
        },
      }}
    >
      <Labelled label="Seeds" hint="sites your subject trusts, one a line">
        <textarea
          name="seeds"
          className="field h-28 w-full resize-y"
          placeholder="a-club-you-trust.org"
          value={seeds}
          onChange={(event) => setSeeds(event.target.value)}
          onDrop={async (event) => {
            const file = event.dataTransfer.files[0];
            if (!file) return;
            event.preventDefault();
            setSeeds(await file.text());
          }}
        />
      </Labelled>
      <div className="-mt-1 flex gap-2">
        <label className="quiet cursor-pointer focus-within:outline-2 focus-within:outline-damson">
          From a file
          <input
            type="file"
            className="sr-only"
            accept=".txt,.csv,text/plain"
            onChange={async (event) => {
              const file = event.target.files?.[0];
              if (file && file.size > 1_000_000)
                toast('A list of seeds over 1 MB is not a list of seeds. Import it as a list.');
              else if (file) setSeeds(await file.text());
            }}
          />
        </label>
        {trustedSites.length > 0 && (
          <button type="button" className="quiet" onClick={() => setSeeds(trustedSites.join('\n'))}>
            The brief's {trustedSites.length} trusted sites
          </button>
        )}
      </div>
      <CrawlOptions briefId={briefId} excludedEndings={excludedEndings} />
    </ActionForm>
  );
}

function SearchForm() {
  const router = useRouter();
  return (
    <ActionForm
      label="Search"
      busyLabel="Starting"
      act={async (form) => {
        const body = { phrases: linesOf(form.get('phrases')), perPhrase: Number(form.get('perPhrase')) };
        const { job } = await call('POST /sources/searches', { body });
        router.push(`/sources/searches/${job.id}`);
      }}
    >
      <Labelled label="Keywords" hint="one a line">
        <textarea name="phrases" className="field h-28 w-full resize-y" placeholder="varroa" required />
      </Labelled>
      <Labelled label="Results for each">
        <input name="perPhrase" type="number" min={1} max={100} defaultValue={20} className="field w-24" />
      </Labelled>
      <p className="small">
        A result's site is read whole only when its home page shows one of the keywords; of others, only the page that
        was found. The search is named in Settings.
      </p>
    </ActionForm>
  );
}

function ZonesForm({ excludedEndings, onStarted }: { excludedEndings: string[]; onStarted: Started }) {
  return (
    <ActionForm
      label="Compare the two"
      busyLabel="Sending the files"
      act={async (form) => {
        const send = async (field: string) => (await call('POST /uploads', { file: form.get(field) as File })).upload;
        const words = (field: string) => linesOf(String(form.get(field) ?? '').replaceAll(',', '\n'));
        const body = {
          name: String(form.get('name')),
          older: await send('older'),
          newer: await send('newer'),
          origin: String(form.get('origin') ?? ''),
          parking: words('parking'),
          excludedEndings,
          checkAfter: form.get('check') === 'on',
        };
        onStarted((await call('POST /sources/zones', { body })).source);
      }}
    >
      <p>
        Names that the older copy delegates and the newer does not have just dropped; names that moved to parking
        servers are lapsing. Both go to the pool.
      </p>
      <Labelled label="Name of the source">
        <input name="name" required maxLength={120} className="field w-full" />
      </Labelled>
      <div className="grid grid-cols-1 lg:grid-cols-2 gap-4">
        <Labelled label="Older copy">
          <input name="older" type="file" required className="field w-full" />
        </Labelled>
        <Labelled label="Newer copy">
          <input name="newer" type="file" required className="field w-full" />
        </Labelled>
      </div>
      <Labelled label="Origin" hint="only if the files do not say it with $ORIGIN">
        <input name="origin" className="field w-full" />
      </Labelled>
      <Labelled label="Domains of parking servers" hint="by commas or lines">
        <textarea name="parking" rows={2} className="field w-full" />
      </Labelled>
      <label className="flex items-center gap-2">
        <input name="check" type="checkbox" defaultChecked /> check and measure what changed
      </label>
    </ActionForm>
  );
}
