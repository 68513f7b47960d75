import { readdirSync, readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { fetchFile, type Validators } from './fetch-file';

const NOTHING: Validators = { etag: null, modified: null };
let store: Store;
let server: Server;
let base: string;
const seen: { path: string; modified: string | undefined }[] = [];
beforeEach(async () => {
  store = await freshStore();
  seen.length = 0;
  server = createServer((request, response) => {
    const path = request.url ?? '';
    seen.push({ path, modified: request.headers['if-modified-since'] });
    const date = 'Fri, 20 Nov 2026 08:00:00 GMT';
    if (path === '/moved') response.writeHead(302, { location: '/list' }).end();
    else if (path === '/round') response.writeHead(302, { location: '/round' }).end();
    else if (path === '/empty') response.end();
    else if (path === '/cut')
      response.writeHead(200, { 'content-length': '100' }).write('a.org', () => response.destroy());
    else if (path === '/packed') response.writeHead(200, { 'content-encoding': 'gzip' }).end(gzipSync('a.org'));
    else if (request.headers['if-modified-since'] === date) response.writeHead(304).end();
    else response.writeHead(200, { 'last-modified': date }).end('a.org\n');
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterEach(() => {
  server.close();
  server.closeAllConnections();
});

const get = (path: string, known = NOTHING) =>
  fetchFile(store, { ...readSettings(store), allowedPrivate: ['127.0.0.1'] }, base + path, known);
const kept = () => readdirSync(join(store.folder, 'uploads'));

describe('fetchFile', () => {
  it('keeps the file with its hash and what the server says of its age', async () => {
    const file = await get('/list');
    expect(file).toMatchObject({ bytes: 6, etag: null, modified: 'Fri, 20 Nov 2026 08:00:00 GMT' });
    expect(file?.hash).toMatch(/^[0-9a-f]{64}$/);
    expect(readFileSync(file?.path ?? '', 'utf8')).toBe('a.org\n');
  });

  it('asks only for what has changed', async () => {
    const file = await get('/list');
    expect(await get('/list', { etag: null, modified: file?.modified ?? null })).toBeNull();
    expect(seen.map(({ modified }) => modified)).toEqual([undefined, file?.modified]);
    expect(kept()).toHaveLength(1);
  });

  it('follows redirects, not for ever', async () => {
    expect(await get('/moved')).toMatchObject({ bytes: 6 });
    await expect(get('/round')).rejects.toThrow('The address answered 302.');
    expect(seen.length).toBeLessThan(12);
  });

  it('unpacks what comes packed although it was asked for plain', async () => {
    const file = await get('/packed');
    expect(readFileSync(file?.path ?? '', 'utf8')).toBe('a.org');
  });

  it.each([
    ['/empty', 'empty file'],
    ['/cut', 'broke'],
  ])('keeps nothing of %s, and says why', async (path, message) => {
    await expect(get(path)).rejects.toThrow(message);
    expect(kept()).toEqual([]);
  });

  it('refuses private addresses that are not allowed', async () => {
    await expect(fetchFile(store, readSettings(store), `${base}/list`, NOTHING)).rejects.toThrow('private address');
  });
});
