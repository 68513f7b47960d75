'use client';

import { useState } from 'react';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { Labelled, Problem, Status } from '../fields';
import { type ListLook, ListMapping, TableShape } from './list-mapping';
import { useTableLook } from './use-table-look';

type VenueLook =
  | { kind: 'feed'; venue: string; currency: string; listings: number }
  | { kind: 'table'; upload: string; look: Omit<ListLook, 'upload'> };

/** How often something is looked at again, in minutes; 0: only when asked to. */
export const INTERVALS = [
  [0, 'only when asked to'],
  [5, 'every 5 minutes'],
  [15, 'every 15 minutes'],
  [60, 'every hour'],
  [360, 'every 6 hours'],
  [1440, 'every day'],
] as const;

/** A venue by the address of what it hands out: recognised, mapped where it is a table, read once or again and again. */
export function VenueForm({ onStarted }: { onStarted(source: { id: number }): void }) {
  const { look, latest, chosen, setLook, lookAgain, problem, busy, attempt } = useTableLook((given) =>
    call('POST /sources/lists/preview', given),
  );
  const [url, setUrl] = useState('');
  const [feed, setFeed] = useState<Extract<VenueLook, { kind: 'feed' }> | null>(null);
  const [venue, setVenue] = useState('');
  const [currency, setCurrency] = useState('');
  const [every, setEvery] = useState(15);

  const lookAtIt = () =>
    attempt('Looking at it', async () => {
      setFeed(null);
      setLook(null);
      const found = await call('POST /sources/feeds/preview', { body: { url } });
      if (found.kind === 'feed') setFeed(found);
      else setLook({ ...found.look, upload: found.upload });
    });
  const start = () =>
    attempt(
      'Starting',
      async () => {
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
        const body = { url, name: feed?.venue ?? venue, table, everyMinutes: every || null };
        onStarted((await call('POST /sources/feeds', { body })).source);
      },
      { once: true },
    );
  const isReady = feed !== null || (look?.columns.includes('domain') && venue.trim() !== '');
  return (
    <div className="flex flex-col gap-4">
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void lookAtIt();
        }}
      >
        <Labelled label="Address of the listings" hint="our JSON (docs/venue-feed.md), or any table">
          <input
            type="url"
            required
            className="field w-full"
            placeholder="http://saltmarchexchange.com/listings.json"
            value={url}
            onChange={(event) => setUrl(event.target.value)}
          />
        </Labelled>
        <div>
          <button type="submit" className={isReady ? 'quiet' : 'press'}>
            Look at it
          </button>
        </div>
      </form>
      <Status text={busy} />
      <Problem text={problem} />
      {feed && (
        <p>
          A feed of our kind: <strong className="font-semibold">{feed.venue}</strong>, {count(feed.listings)} listings,
          prices in {feed.currency}.
        </p>
      )}
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
            <Labelled label="Venue">
              <input className="field w-full" value={venue} onChange={(event) => setVenue(event.target.value)} />
            </Labelled>
            <Labelled label="Currency" hint="of prices that name none">
              <input
                className="field w-20"
                placeholder="EUR"
                maxLength={3}
                value={currency}
                onChange={(event) => setCurrency(event.target.value.toUpperCase())}
              />
            </Labelled>
          </div>
        </>
      )}
      {(feed || look) && (
        <div className="flex items-end gap-4">
          <Labelled label="Read it again">
            <select className="field" value={every} onChange={(event) => setEvery(Number(event.target.value))}>
              {INTERVALS.map(([minutes, words]) => (
                <option key={minutes} value={minutes}>
                  {words}
                </option>
              ))}
            </select>
          </Labelled>
          <button type="button" className="press" disabled={!isReady} onClick={() => void start()}>
            Read the venue
          </button>
        </div>
      )}
    </div>
  );
}
