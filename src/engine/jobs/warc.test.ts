import { appendFileSync, mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { HttpClient } from '../../net/http';
import type { Store } from '../../store/base/database';
import { changeSettings, readSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { warcCapturesOf, warcFiles } from '../../store/links/warc';
import { PastReader } from '../history/past-reader';
import { openWarc, readWarcRecord } from '../history/warc-files';
import { trial } from './testing';
import { runWarc } from './warc';

let store: Store;
let folder: string;
beforeEach(async () => {
  store = await freshStore();
  folder = mkdtempSync(join(tmpdir(), 'warc-'));
  changeSettings(store, { warcPath: folder });
});

interface Made {
  uri?: string;
  at?: string;
  type?: string;
  answer?: string | Buffer;
  /** Further fields of its head. */
  more?: string[];
}
/** A record as writers make them. */
function record({ uri = 'http://tarnhives.org/', at = '2012-03-04T05:06:07Z', type = 'response', answer = 'HTTP/1.1 200 OK\r\nContent-Type: text/html\r\n\r\n<h1>Hives', more = [] }: Made = {}): Buffer {
  const block = Buffer.from(answer);
  const head = ['WARC/1.0', `WARC-Type: ${type}`, `WARC-Target-URI: ${uri}`, `WARC-Date: ${at}`, `Content-Length: ${block.length}`, ...more];
  return Buffer.concat([Buffer.from(`${head.join('\r\n')}\r\n\r\n`), block, Buffer.from('\r\n\r\n')]);
} // biome-ignore format: one line a part
const packed = (...records: Buffer[]) => Buffer.concat(records.map((one) => gzipSync(one)));
const put = (name: string, content: Buffer) => writeFileSync(join(folder, name), content);
const read = async () => {
  const run = trial(store, 'warc', {});
  await runWarc(run.context);
  return run.progress.at(-1)?.message ?? '';
};
const http = new HttpClient();
const past = () => new PastReader(store, readSettings(store), http);
const INFO = record({ type: 'warcinfo', answer: 'software: by hand' });

describe('files of web archives', () => {
  it('are read, packed and plain, in folders below, and what is no answer is passed over', async () => {
    put('a.warc.gz', packed(INFO, record(), record({ type: 'request', answer: 'GET / HTTP/1.1\r\n\r\n' }), record({ uri: 'https://www.tarnhives.org/guide', at: '2013-01-01T00:00:00Z', answer: 'HTTP/1.1 404 Gone\r\n\r\n' }))); // biome-ignore format: one line
    mkdirSync(join(folder, 'below'));
    put(
      'below/b.warc',
      Buffer.concat([INFO, record({ uri: 'http://pellgatecombs.co.uk/' }), record({ uri: 'dns:tarnhives.org' })]),
    );
    put('notes.txt', Buffer.from('not read'));
    expect(await read()).toBe('2 files, 3 new captures');
    expect(warcCapturesOf(store, 'tarnhives.org')).toMatchObject([
      { url: 'http://tarnhives.org/', at: Date.UTC(2012, 2, 4, 5, 6, 7), status: 200 },
      { url: 'https://www.tarnhives.org/guide', status: 404 },
    ]);
    expect(warcCapturesOf(store, 'pellgatecombs.co.uk')).toHaveLength(1);
    // nothing is read twice
    expect(await read()).toBe('2 files, 0 new captures');
  });

  it('hold what a later visit found again, by its name or by its sum, and say what is in none of them', async () => {
    const digest = 'WARC-Payload-Digest: sha1:3I42H3S6NNFQ2MSVX7XZKYAYSCX5QBYJ';
    const first = record({ more: [digest] });
    const revisit = (at: string, more: string[], answer = 'HTTP/1.1 200 OK\r\n\r\n') =>
      record({ type: 'revisit', at, answer, more });
    put(
      'a.warc.gz',
      packed(
        first,
        revisit('2013-01-01T00:00:00Z', [
          'WARC-Refers-To-Target-URI: http://tarnhives.org/',
          'WARC-Refers-To-Date: 2012-03-04T05:06:07Z',
        ]),
        revisit('2014-01-01T00:00:00Z', [digest], 'HTTP/1.1 304 Not Modified\r\n\r\n'),
        revisit('2015-01-01T00:00:00Z', [
          'WARC-Payload-Digest: sha1:ANOTHER',
          'WARC-Refers-To-Date: 2011-01-01T00:00:00Z',
        ]),
        // before there was anything to find again
        revisit('2010-01-01T00:00:00Z', [digest]),
      ),
    );
    expect(await read()).toBe('1 file, 3 new captures; 2 revisits of what is in none of them left out');
    const captures = warcCapturesOf(store, 'tarnhives.org');
    expect(captures.map(({ at, status, offset }) => [new Date(at).getUTCFullYear(), status, offset])).toEqual([
      [2012, 200, 0],
      [2013, 200, 0],
      [2014, 200, 0],
    ]);
    const { mementos } = await past().of('tarnhives.org');
    expect(mementos).toHaveLength(3);
    for (const { url } of mementos) expect(String((await past().capture(url)).body)).toContain('Hives');
  });

  it('that have grown are read on, and others under the same name anew', async () => {
    put('a.warc.gz', packed(record()));
    await read();
    appendFileSync(join(folder, 'a.warc.gz'), packed(record({ at: '2014-01-01T00:00:00Z' })));
    expect(await read()).toBe('1 file, 1 new capture');
    expect(warcFiles(store)).toMatchObject([{ captures: 2 }]);
    put('a.warc.gz', packed(record({ uri: 'http://x.org/' })));
    expect(await read()).toBe('1 file, 1 new capture');
    expect(warcCapturesOf(store, 'tarnhives.org')).toEqual([]);
  });

  it('that are damaged say so, and keep what was read before', async () => {
    const whole = packed(record(), record({ at: '2014-01-01T00:00:00Z' }));
    put('a.warc.gz', whole.subarray(0, whole.length - 60));
    put('b.warc', Buffer.concat([record({ uri: 'http://x.org/' }), Buffer.from('rubbish that is no record')]));
    expect(await read()).toMatch(
      /^2 files, 2 new captures; not read to their end: .*a\.warc\.gz: .*; .*b\.warc: no record at byte/,
    );
    expect(warcFiles(store).map(({ problem }) => problem !== null)).toEqual([true, true]);
  });

  it('that are not there say so', async () => {
    await expect(read()).rejects.toThrow('no file that ends in .warc');
    changeSettings(store, { warcPath: join(folder, 'nowhere') });
    await expect(read()).rejects.toThrow('cannot be read');
  });

  it('have each record found, whatever is in them', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.uint8Array({ maxLength: 300 }), { minLength: 1, maxLength: 5 }),
        fc.boolean(),
        async (blocks, isPacked) => {
          const records = blocks.map((block) => record({ answer: Buffer.from(block) }));
          const path = join(folder, isPacked ? 'any.warc.gz' : 'any.warc');
          writeFileSync(path, isPacked ? packed(...records) : Buffer.concat(records));
          const file = await openWarc(path);
          try {
            let offset = 0;
            for (const block of blocks) {
              const found = await readWarcRecord(file, offset);
              expect(Buffer.from(found?.block ?? []).equals(Buffer.from(block))).toBe(true);
              offset = found?.next ?? 0;
            }
            expect(await readWarcRecord(file, offset)).toBeNull();
          } finally {
            await file.close();
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('the past by files', () => {
  it('has the captures of the front page in order, and their pages', async () => {
    const page = '<h1>Hives of the tarn';
    const answer = (encoding: string, body: Buffer) => Buffer.concat([Buffer.from(`HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nContent-Encoding: ${encoding}\r\n\r\n`), body]); // biome-ignore format: one line
    put('a.warc.gz', packed(
      record({ at: '2014-01-01T00:00:00Z', answer: answer('br', brotliCompressSync(page)) }),
      record({ at: '2012-01-01T00:00:00Z', answer: answer('gzip', gzipSync(page)) }),
      record({ at: '2013-01-01T00:00:00Z', uri: 'http://tarnhives.org/guide' }),
      // unfolded before it was stored, its header left
      record({ at: '2015-01-01T00:00:00Z', answer: answer('gzip', Buffer.from(page)) }),
    )); // biome-ignore format: one record a line
    await read();
    const { mementos, server, partial } = await past().of('tarnhives.org');
    expect(mementos.map(({ at }) => new Date(at).getUTCFullYear())).toEqual([2012, 2014, 2015]);
    expect({ server, partial }).toEqual({ server: 'files of web archives', partial: false });
    for (const { url } of mementos) {
      const capture = await past().capture(url);
      expect(capture).toMatchObject({ status: 200, contentType: 'text/html', location: null });
      expect(capture.body.toString()).toBe(page);
    }
  });

  it('follows where a capture leads within the files, and says where it leads where it is not', async () => {
    put('a.warc.gz', packed(
      record({ answer: 'HTTP/1.1 301 Moved\r\nLocation: https://www.tarnhives.org/\r\n\r\n' }),
      record({ uri: 'https://www.tarnhives.org/', at: '2012-03-04T05:06:09Z', answer: 'HTTP/1.1 200 OK\r\n\r\nthere' }),
      record({ uri: 'http://x.org/', answer: 'HTTP/1.1 302 Found\r\nLocation: http://elsewhere.org/\r\n\r\n' }),
    )); // biome-ignore format: one record a line
    await read();
    const [{ url }] = (await past().of('tarnhives.org')).mementos;
    expect((await past().capture(url)).body.toString()).toBe('there');
    const [gone] = (await past().of('x.org')).mementos;
    expect(await past().capture(gone.url)).toMatchObject({ status: 302, location: 'http://elsewhere.org/' });
  });

  it('that is not there any more says so', async () => {
    put('a.warc', record());
    await read();
    const [{ url }] = (await past().of('tarnhives.org')).mementos;
    put('a.warc', Buffer.from('something else'));
    await expect(past().capture(url)).rejects.toMatchObject({ code: 'bad-answer' });
  });
});
