import type { IncomingMessage, ServerResponse } from 'node:http';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { Connection } from '../../core/connections/connection';
import { closeServers, httpServer } from '../../net/testing';
import { type Store, write } from '../../store/base/database';
import { readJob } from '../../store/base/jobs';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { findDomain, putDomain } from '../../store/domains/domains';
import { openListings } from '../../store/offers/listings';
import { statementsOf } from '../../store/sources/list-figures';
import { eachReject, readSource } from '../../store/sources/sources';
import { runFigures } from './figures';
import { type Trial, trial } from './testing';
import { runVenue } from './venue';

let store: Store;
let answer: (url: URL, reply: ServerResponse, request: IncomingMessage) => void;
let host: string;
let asked: string[];

beforeEach(async () => {
  store = await freshStore();
  asked = [];
  host = await httpServer((request, reply) => {
    asked.push(request.url ?? '');
    answer(new URL(request.url ?? '', 'http://x'), reply, request);
  });
});
afterEach(closeServers);

const json = (reply: ServerResponse, value: unknown, status = 200) =>
  reply.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(value));
const describeIt = (rest: object) =>
  changeSettings(store, {
    connections: [Connection.parse({ id: 'one', title: 'Saltmarch', format: 'json', perMinute: 6000, ...rest })],
  });

describe('a venue that is described', () => {
  const LOTS = ['ashcotthives', 'pellgatecombs', 'tarnbees', 'molefordhoney', 'brackwax'].map((name, n) => ({
    d: `${name}.org`,
    bid: n === 2 ? null : 120 + n / 2,
    ends: `2126-12-0${n + 1}T15:00:00+01:00`,
    type: 'auction',
  }));
  const listings = (more: object = {}) =>
    describeIt({
      use: 'listings',
      address: `http://${host}/lots?from={offset}`,
      headers: [{ name: 'Authorization', value: 'Bearer {key}' }],
      key: 'k-1',
      entries: '/lots',
      fields: {
        domain: { at: '/d' },
        price: { at: '/bid' },
        currency: { in: 'answer', at: '/cur' },
        closing: { at: '/ends' },
        kind: { at: '/type' },
      },
      paging: { by: 'offset', step: 2 },
      ...more,
    });
  const read = async (again?: Trial) => {
    const run = trial(store, 'venue', { connection: 'one' }, again);
    await runVenue(run.context);
    return run;
  };
  const serve = (lots: readonly object[]) => {
    answer = (url, reply, request) => {
      if (request.headers.authorization !== 'Bearer k-1') return json(reply, { error: 'no' }, 401);
      const from = Number(url.searchParams.get('from'));
      return json(reply, { cur: 'GBP', lots: lots.slice(from, from + 2) });
    };
  };
  const open = (run: Trial) =>
    openListings(store, run.sourceId, null, 0, 99)
      .rows.map(({ name }) => name)
      .sort();

  it('is read part by part, and again: what it does not offer any more has ended', async () => {
    listings();
    serve(LOTS);
    const run = await read();
    expect(readSource(store, run.sourceId)).toMatchObject({ rows_read: 5, rows_taken: 5, rows_set_aside: 0 });
    expect(findDomain(store, 'pellgatecombs.org')).toMatchObject({
      listing: 'auction',
      venue: 'Saltmarch',
      price_minor: 12_050,
      currency: 'GBP',
      closing_at: Date.UTC(2126, 11, 2, 14),
    });
    expect(findDomain(store, 'tarnbees.org')).toMatchObject({ listing: 'auction', price_minor: null });
    serve(LOTS.slice(1));
    await read(run);
    expect(open(run)).toEqual(['brackwax.org', 'molefordhoney.org', 'pellgatecombs.org', 'tarnbees.org']);
  });

  it('of which a part is missing ends nothing, and says what was wrong without the key', async () => {
    listings();
    serve(LOTS);
    const run = await read();
    answer = (url, reply) =>
      url.searchParams.get('from') === '0'
        ? json(reply, { cur: 'GBP', lots: LOTS.slice(0, 2) })
        : json(reply, { error: 'k-1 is over its limit' }, 403);
    await expect(read(run)).rejects.toThrow(/Saltmarch: 127\.0\.0\.1:\d+ answered 403.*stays as it is/s);
    expect(open(run)).toHaveLength(5);
  });

  it('counts what it does not understand', async () => {
    listings({ paging: { by: 'none' }, address: `http://${host}/lots` });
    answer = (_, reply) => json(reply, { lots: [...LOTS.slice(0, 1), { d: 'rubbish' }, { d: null }] });
    const run = await read();
    expect(readSource(store, run.sourceId)).toMatchObject({ rows_read: 3, rows_taken: 1, rows_set_aside: 2 });
    expect([...eachReject(store, run.sourceId)]).toHaveLength(2);
  });

  it('that was taken away since says so', async () => {
    await expect(read()).rejects.toThrow('gone or switched off');
  });
});

describe('a service of figures that is described', () => {
  const NAMES = ['ashcotthives.org', 'pellgatecombs.org', 'tarnbees.org'];
  let ids: number[];
  beforeEach(() => {
    ids = write(store, () => NAMES.map((name) => putDomain(store, { name, ending: 'org' }, true, store.now()).id));
    describeIt({
      use: 'figures',
      address: `http://${host}/d/{domain}`,
      fields: {
        'referring-domains': { at: '/rd' },
        traffic: { at: '/organic/visits' },
        score: { at: '/rank' },
        cpc: { at: '/cpc' },
      },
      currency: 'USD',
      nothing: [404],
    });
  });
  const ask = async (again?: Trial) => {
    const run = trial(store, 'figures', { connection: 'one', ids }, again);
    await runFigures(run.context);
    return run;
  };
  const nameOf = (url: URL) => url.pathname.slice(3);

  it('is asked about each domain, and what it states is kept under its name', async () => {
    answer = (url, reply) =>
      nameOf(url) === 'tarnbees.org'
        ? json(reply, {}, 404)
        : json(reply, { rd: 12, organic: { visits: 3400 }, rank: 41, cpc: 1.5 });
    const run = await ask();
    expect(asked).toEqual(NAMES.map((name) => `/d/${name}`));
    const [statement] = statementsOf(store, ids[0]);
    expect(Array.from(statement.figures.values).slice(0, 9)).toEqual([12, Number.NaN, 3400, Number.NaN, Number.NaN, 150, 41, Number.NaN, Number.NaN]); // biome-ignore format: one line
    expect(statement.figures.currency).toBe('USD');
    expect(statementsOf(store, ids[2])).toEqual([]);
    expect(readSource(store, run.sourceId)).toMatchObject({ rows_read: 3, rows_taken: 2, rows_set_aside: 1 });
    expect(run.orders).toMatchObject([{ kind: 'measure' }]);
    expect(run.progress.at(-1)).toMatchObject({ done: 3, total: 3 });
    expect([...run.changed]).toEqual(ids);
  });

  it('is not asked again about what it has answered, after an interruption', async () => {
    answer = (url, reply) =>
      nameOf(url) === NAMES[1] ? json(reply, { error: 'the key is used up' }, 403) : json(reply, { rd: 1 });
    const run = trial(store, 'figures', { connection: 'one', ids });
    await expect(runFigures(run.context)).rejects.toThrow(/Saltmarch: .*403.*is kept/s);
    answer = (_, reply) => json(reply, { rd: 2 });
    asked = [];
    run.context.job.checkpoint = readJob(store, run.context.job.id)?.checkpoint ?? null;
    await ask(run);
    expect(asked).toEqual(NAMES.slice(1).map((name) => `/d/${name}`));
    expect(ids.map((id) => statementsOf(store, id)[0]?.figures.values[0])).toEqual([1, 2, 2]);
  });

  it('that wants to be left alone is, and asked again then', async () => {
    let refusals = 0;
    answer = (_, reply) => {
      if (refusals++ > 0) return json(reply, { rd: 5 });
      return reply.writeHead(429, { 'retry-after': '1' }).end();
    };
    const began = performance.now();
    await ask();
    expect(performance.now() - began).toBeGreaterThan(950);
    expect(statementsOf(store, ids[0])).toHaveLength(1);
    expect(asked).toHaveLength(4);
  });

  it('that answers about another domain has said nothing of this one', async () => {
    describeIt({
      use: 'figures',
      address: `http://${host}/d/{domain}`,
      fields: { domain: { at: '/n' }, backlinks: { at: '/b' } },
    });
    answer = (_, reply) => json(reply, { n: NAMES[0], b: 7 });
    const run = await ask();
    expect(ids.map((id) => statementsOf(store, id).length)).toEqual([1, 0, 0]);
    expect([...eachReject(store, run.sourceId)].map(({ reason }) => reason)).toEqual(
      Array(2).fill(`the answer is about ${NAMES[0]}`),
    );
  });
});
