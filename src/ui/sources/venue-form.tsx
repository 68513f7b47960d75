'use client';

import { useState } from 'react';
import { z } from 'zod';
import { WebAddress } from '../../contracts/source-forms';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { DescribedVenue } from '../connections/described-venue';
import { Problem, Status } from '../fields';
import { ChoiceField, LineField } from '../forms/field';
import { Form } from '../forms/form';
import { number, text } from '../forms/typed';
import Link from '../link';
import { INTERVALS } from './intervals';
import { type ListLook, ListMapping, TableShape } from './list-mapping';
import { useTableLook } from './use-table-look';

type VenueLook =
  | { kind: 'feed'; venue: string; currency: string; listings: number }
  | { kind: 'table'; upload: string; look: Omit<ListLook, 'upload'> };

const TypedAddress = z.object({ url: z.string().trim().pipe(WebAddress) });
const TypedVenue = z.object({ venue: z.string(), currency: z.string().trim().toUpperCase(), everyMinutes: number() });
const TypedTable = TypedVenue.extend({ venue: text('Say whose listings they are.') });

/** A venue by the address of what it hands out: recognised, mapped where it is a table, read once or again and again. */
export function VenueForm({
  described,
  onStarted,
}: {
  /** Services that are described and have listings. */
  described: { id: string; title: string }[];
  onStarted(source: { id: number }): void;
}) {
  const { look, latest, chosen, setLook, lookAgain, problem, busy, attempt } = useTableLook((given) =>
    call('POST /sources/lists/preview', given),
  );
  const [url, setUrl] = useState('');
  const [feed, setFeed] = useState<Extract<VenueLook, { kind: 'feed' }> | null>(null);

  const lookAtIt = (typed: { url: string }) =>
    attempt('Looking at it', async () => {
      setUrl(typed.url);
      setFeed(null);
      setLook(null);
      const found = await call('POST /sources/feeds/preview', { body: typed });
      if (found.kind === 'feed') setFeed(found);
      else setLook({ ...found.look, upload: found.upload });
    });
  const start = async ({ venue, currency, everyMinutes }: z.output<typeof TypedVenue>) => {
    const seen = latest.current;
    const table = seen && {
      upload: seen.upload,
      delimiter: seen.delimiter,
      hasHeader: seen.hasHeader,
      headRows: seen.headRows,
      order: chosen.current.order ?? null,
      sheet: seen.sheet,
      columns: seen.columns,
      venue,
      currency: currency || null,
    };
    const body = { url, name: feed?.venue ?? venue, table, everyMinutes: everyMinutes || null };
    onStarted((await call('POST /sources/feeds', { body })).source);
  };
  const isReady = feed !== null || look?.columns.includes('domain') === true;
  return (
    <div className="flex flex-col gap-4">
      <p className="text-muted">
        A venue that wants a key or a login, answers in parts or in an order of its own:{' '}
        <Link className="set" href="/setup/connections/new?use=listings">
          describe it
        </Link>
        .
      </p>
      <DescribedVenue venues={described} />
      <Form
        schema={TypedAddress}
        values={{ url: '' }}
        label="Look at it"
        busyLabel="Looking"
        isQuiet={isReady}
        className="gap-2"
        act={lookAtIt}
      >
        <LineField
          name="url"
          label="Address of the listings"
          hint="our JSON (docs/venue-feed.md), or any table"
          type="url"
          placeholder="http://saltmarchexchange.com/listings.json"
        />
      </Form>
      <Status text={busy} />
      <Problem text={problem} />
      {feed && (
        <p>
          A feed of our kind: <strong className="font-semibold">{feed.venue}</strong>, {count(feed.listings)} listings,
          prices in {feed.currency}.
        </p>
      )}
      {(feed || look) && (
        <Form
          schema={look ? TypedTable : TypedVenue}
          values={{ venue: '', currency: '', everyMinutes: '15' }}
          label="Read the venue"
          busyLabel="Starting"
          isOff={!isReady}
          act={start}
        >
          {look && (
            <>
              <TableShape look={look} onChange={(change) => void lookAgain(change)} />
              <ListMapping
                look={look}
                onChange={(columns) => void lookAgain({ columns })}
                onOrder={(order) => void lookAgain({ order })}
              />
              {!look.columns.includes('domain') && <p role="alert">Mark the column that holds the domain.</p>}
              <div className="flex gap-6">
                <LineField name="venue" label="Venue" />
                <LineField
                  name="currency"
                  label="Currency"
                  hint="of prices that name none"
                  className="w-20"
                  placeholder="EUR"
                  maxLength={3}
                />
              </div>
            </>
          )}
          <ChoiceField
            name="everyMinutes"
            label="Read it again"
            options={INTERVALS.map(([minutes, words]) => [String(minutes), words] as const)}
          />
        </Form>
      )}
    </div>
  );
}
