import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { takeFirstSteps } from '../scripts/first-steps.mjs';

const FILES = ['link-index.csv.gz', 'lesser-index.csv.gz', 'drop-list.csv', 'sales.csv', 'places.csv', 'rankings.csv'];

const WAY = { kind: 'bid', venue: 'Quayside Lots', refusal: null, leastMinor: 900, priceMinor: 1000 };
const ENTRY = {
  id: 1,
  name: 'tarnhives.org',
  worthLowMinor: null,
  resale: { lowMinor: 5000, highMinor: 9000 },
  ways: [WAY],
  way: 0,
};

/** As much of the interface as the first steps use; every source is told once it is there, every job is done at once. */
class Product {
  readonly calls: string[] = [];
  readonly sources: { name: string }[] = [];
  readonly briefs = [{ id: 1, name: 'First brief' }];
  readonly sieves: { id: number; name: string; lastAt: number | null }[] = [];
  readonly runs: object[] = [];
  /** Orders under the keys that they were given with: one that comes again is the same. */
  readonly orders = new Map<string, string>();
  /** Breaks off at the so-many-th change, before it is answered but after it is done. */
  breakAt = Number.POSITIVE_INFINITY;
  server: Server;

  constructor() {
    this.server = createServer((request, response) => {
      let body = '';
      request.on('data', (part) => {
        body += part;
      });
      request.on('end', () => {
        const url = new URL(request.url ?? '', 'http://x');
        const answer = this.answer(request.method ?? '', url, body);
        if (request.method !== 'GET' && this.calls.length >= this.breakAt) {
          this.breakAt = Number.POSITIVE_INFINITY;
          response.destroy();
          return;
        }
        response.setHeader('content-type', 'application/json');
        response.end(JSON.stringify(answer));
      });
    });
  }

  private answer(method: string, { pathname, searchParams }: URL, body: string): unknown {
    const path = pathname.replace('/api/v1', '');
    if (method === 'GET') {
      if (path === '/sources') return { sources: this.sources };
      if (path === '/briefs') return { briefs: this.briefs };
      if (path === '/sieves') return { sieves: this.sieves };
      if (path === '/ideas') return { runs: this.runs };
      if (path === '/plan') return { entries: [ENTRY], bids: [{ id: 1, bidMinor: 2000 }] };
      if (path === '/orders/terms') return { ways: ['bid', 'buy', 'register'].map((kind) => ({ ...WAY, kind })) };
      return { jobs: [] };
    }
    this.calls.push(path);
    if (path === '/pool/query') return { rows: [{ id: 1, name: 'tarnhives.org' }] };
    // the first brief is given a name of its own
    if (path === '/briefs/1') this.briefs[0].name = JSON.parse(body).name;
    if (path === '/briefs') this.briefs.push({ id: this.briefs.length + 1, name: JSON.parse(body).name });
    if (path === '/sieves') this.sieves.push({ id: this.sieves.length + 1, name: JSON.parse(body).name, lastAt: null });
    const [, run] = /^\/sieves\/(\d+)\/run$/.exec(path) ?? [];
    if (run) this.sieves[Number(run) - 1].lastAt = 1;
    if (path === '/ideas') this.runs.push({});
    if (path === '/batches') this.sources.push({ name: JSON.parse(body).name });
    if (path === '/orders') this.orders.set(JSON.parse(body).clientKey, JSON.parse(body).kind);
    if (path === '/sources/feeds/preview') return { upload: 'u', look: {} };
    if (path.startsWith('/sources/'))
      this.sources.push({ name: searchParams.get('name') ?? JSON.parse(body || '{}').name });
    return {};
  }

  listen(): Promise<number> {
    return new Promise((done) =>
      this.server.listen(0, '127.0.0.1', () => done((this.server.address() as AddressInfo).port)),
    );
  }
}

let folder: string;
let product: Product;
let port: number;
const steps = () => takeFirstSteps({ port, folder, log: () => undefined });

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'first-steps-'));
  mkdirSync(join(folder, 'world'));
  for (const file of FILES) writeFileSync(join(folder, 'world', file), 'x');
  product = new Product();
  port = await product.listen();
});
afterEach(() => product.server.close());

it('take each source once, and once all are taken, none again', async () => {
  await steps();
  const names = product.sources.map(({ name }) => name);
  expect(names.length).toBe(7);
  expect(new Set(names).size).toBe(7);
  const calls = product.calls.length;
  await steps();
  expect(product.calls.length).toBe(calls);
});

it('go on where they were broken off, wherever that was, and nothing is there twice', async () => {
  await steps();
  const whole = { sources: product.sources.map(({ name }) => name), changes: product.calls.length };
  product.server.close();
  for (let at = 1; at <= whole.changes; at++) {
    folder = mkdtempSync(join(tmpdir(), 'first-steps-'));
    mkdirSync(join(folder, 'world'));
    for (const file of FILES) writeFileSync(join(folder, 'world', file), 'x');
    product = new Product();
    product.breakAt = at;
    port = await product.listen();
    await expect(steps()).rejects.toThrow();
    await steps();
    expect(product.sources.map(({ name }) => name).sort()).toEqual([...whole.sources].sort());
    expect(product.briefs.map(({ name }) => name)).toEqual(['Beekeeping guide', 'Letterpress names', 'Dark-sky clubs']);
    expect(product.sieves).toHaveLength(2);
    expect(product.runs).toHaveLength(1);
    expect([...product.orders.values()].sort()).toEqual(['bid', 'buy', 'register']);
    expect(JSON.parse(readFileSync(join(folder, 'first-steps.json'), 'utf8'))).toContain('finds');
    product.server.close();
  }
});

it('leave a folder alone that was there before they were written down', async () => {
  product.sources.push({ name: 'Mine' });
  await steps();
  expect(product.calls).toEqual([]);
});
