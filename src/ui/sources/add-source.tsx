'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import { SearchSchema } from '../../contracts/crawl';
import { call } from '../api';
import { AreaField, LineField, NumberField, TickField } from '../forms/field';
import { Form } from '../forms/form';
import { lines, linesOf, number, sentBy, text, wordsOf } from '../forms/typed';
import { CrawlOptions } from './crawl-options';
import { KeywordsFile, SalesFile } from './figure-files';
import { LinksForm } from './links-form';
import { ListImport } from './list-import';
import { MailForm } from './mail-form';
import { ReferrersForm } from './referrers-form';
import { crawlValues, TypedCrawl } from './typed-crawl';
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
  { id: 'mail', label: 'Mail' },
  { id: 'sales', label: 'Sales' },
  { id: 'keywords', label: 'Keywords' },
];

interface AddSourceProps {
  briefId: number;
  trustedSites: string[];
  excludedEndings: string[];
  /** Services that are described and have listings. */
  described: { id: string; title: string }[];
}

/** Adds a source of any kind. */
export function AddSource({ briefId, trustedSites, excludedEndings, described }: AddSourceProps) {
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
          <VenueForm described={described} onStarted={started} />
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
        <Tabs.Content value="mail" className="pt-3">
          <MailForm excludedEndings={excludedEndings} />
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

function CrawlForm({
  briefId,
  trustedSites,
  excludedEndings,
  onStarted,
}: Omit<AddSourceProps, 'described'> & { onStarted: Started }) {
  const router = useRouter();
  const asked = useSearchParams();
  return (
    <Form
      schema={TypedCrawl}
      values={{ ...crawlValues(excludedEndings), seeds: asked.getAll('seed').join('\n') }}
      label="Start the crawl"
      busyLabel="Starting"
      act={async (typed) => onStarted((await call('POST /sources/crawls', { body: { ...typed, briefId } })).source)}
      other={{
        label: 'Try the seeds first',
        act: async ({ seeds }) => {
          const { job } = await call('POST /sources/crawls/trials', { body: { seeds } });
          router.push(`/sources/trials/${job.id}`);
        },
      }}
    >
      {({ setValue }) => {
        const take = (seeds: string) => setValue('seeds', seeds, { shouldDirty: true, shouldTouch: true });
        return (
          <>
            <AreaField
              name="seeds"
              label="Seeds"
              hint="sites your subject trusts, one a line"
              className="h-28 w-full resize-y"
              placeholder="a-club-you-trust.org"
              onDrop={async (event) => {
                const file = event.dataTransfer.files[0];
                if (!file) return;
                event.preventDefault();
                take(await file.text());
              }}
            />
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
                    else if (file) take(await file.text());
                  }}
                />
              </label>
              {trustedSites.length > 0 && (
                <button type="button" className="quiet" onClick={() => take(trustedSites.join('\n'))}>
                  The brief's {trustedSites.length} trusted sites
                </button>
              )}
            </div>
            <CrawlOptions />
          </>
        );
      }}
    </Form>
  );
}

const TypedSearch = sentBy(z.object({ phrases: lines, perPhrase: number({ isWhole: true }) }), SearchSchema);

function SearchForm() {
  const router = useRouter();
  return (
    <Form
      schema={TypedSearch}
      values={{ phrases: '', perPhrase: '20' }}
      label="Search"
      busyLabel="Starting"
      act={async (body) => {
        const { job } = await call('POST /sources/searches', { body });
        router.push(`/sources/searches/${job.id}`);
      }}
    >
      <AreaField
        name="phrases"
        label="Keywords"
        hint="one a line"
        className="h-28 w-full resize-y"
        placeholder="varroa"
      />
      <NumberField name="perPhrase" label="Results for each" className="w-24" />
      <p className="small">
        A result's site is read whole only when its home page shows one of the keywords; of others, only the page that
        was found. The search is named in Settings.
      </p>
    </Form>
  );
}

/** A file of a form, chosen. */
const someFile = (message: string) =>
  z.custom<FileList | null>().transform((files, context) => {
    const file = files?.[0];
    if (file !== undefined) return file;
    context.addIssue({ code: 'custom', message });
    return z.NEVER;
  });

const TypedZones = z.object({
  name: text('Say what the source is called.'),
  older: someFile('Choose the older copy.'),
  newer: someFile('Choose the newer copy.'),
  origin: z.string(),
  parking: z.string().transform((typed) => linesOf(typed).flatMap(wordsOf)),
  checkAfter: z.boolean(),
});

function ZonesForm({ excludedEndings, onStarted }: { excludedEndings: string[]; onStarted: Started }) {
  return (
    <Form
      schema={TypedZones}
      values={{ name: '', older: null, newer: null, origin: '', parking: '', checkAfter: true }}
      label="Compare the two"
      busyLabel="Sending the files"
      act={async ({ older, newer, ...typed }) => {
        const send = async (file: File) => (await call('POST /uploads', { file })).upload;
        const body = { ...typed, older: await send(older), newer: await send(newer), excludedEndings };
        onStarted((await call('POST /sources/zones', { body })).source);
      }}
    >
      <p>
        Names that the older copy delegates and the newer does not have just dropped; names that moved to parking
        servers are lapsing. Both go to the pool.
      </p>
      <LineField name="name" label="Name of the source" maxLength={120} />
      <div className="grid grid-cols-1 lg:grid-cols-2 gap-4">
        <LineField name="older" label="Older copy" type="file" />
        <LineField name="newer" label="Newer copy" type="file" />
      </div>
      <LineField name="origin" label="Origin" hint="only if the files do not say it with $ORIGIN" />
      <AreaField
        name="parking"
        label="Domains of parking servers"
        hint="by commas or lines"
        rows={2}
        className="w-full"
      />
      <TickField name="checkAfter">check and measure what changed</TickField>
    </Form>
  );
}
