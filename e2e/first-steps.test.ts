import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { takeFirstSteps } from '../scripts/first-steps.mjs';

const FILES = ['link-index.csv.gz', 'lesser-index.csv.gz', 'drop-list.csv', 'sales.csv', 'places.csv', 'rankings.csv'];

/** As much of the interface as the first steps use; every source is told once it is there, every job is done at once. */
class Product {
  readonly calls: string[] = [];
  readonly sources: { name: string }[] = [];
  readonly briefs = [{ id: 1, name: 'First brief' }];
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
      return { jobs: [] };
    }
    this.calls.push(path);
    if (path === '/pool/query') return { rows: [{ id: 1 }] };
    if (path === '/briefs') this.briefs.push({ id: this.briefs.length + 1, name: JSON.parse(body).name });
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
  expect(names.length).toBe(6);
  expect(new Set(names).size).toBe(6);
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
    expect(product.briefs.map(({ name }) => name)).toEqual(['First brief', 'Letterpress names', 'Dark-sky clubs']);
    expect(JSON.parse(readFileSync(join(folder, 'first-steps.json'), 'utf8'))).toContain('measured');
    product.server.close();
  }
});

it('leave a folder alone that was there before they were written down', async () => {
  product.sources.push({ name: 'Mine' });
  await steps();
  expect(product.calls).toEqual([]);
});
