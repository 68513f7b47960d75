import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { eachLeftOut } from '../../store/crawl/find-causes';
import { findDomain, sightingsOf } from '../../store/domains/domains';
import { eachReject, readSource } from '../../store/sources/sources';
import { lookAtLinks, rememberLinks } from '../lists/cut-preview';
import { Stopped } from '../runner/context';
import { runCut } from './cut';
import { trial } from './testing';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});
const fileOf = (content: string | Buffer) => {
  const path = join(store.folder, `links-${Math.random()}`);
  writeFileSync(path, content);
  return path;
};
const TEXT = `Source,Destination,Anchor,Rel
http://a.org/1,http://x.org/,one,
http://a.org/2,http://x.org/,two,nofollow
http://b.org/1,http://y.co.uk/,three,
http://b.org/1,http://merrowmaps.com/,map,
http://b.org/1,http://b.org/2,inside,
http://b.org/1,mailto:us,write,
`;
/** Imports as the interface does: by what the preview recognises. */
async function cut(path: string, more: Record<string, unknown> = {}) {
  const { format, keys, delimiter, hasHeader, columns } = await lookAtLinks(store, path, {});
  const run = trial(store, 'cut', { path, format, keys, delimiter, hasHeader, columns, ...more });
  await runCut(run.context);
  return { ...run, source: readSource(store, run.sourceId)! };
}
const names = () => store.raw.prepare('SELECT name FROM domains WHERE in_pool = 1 ORDER BY name').pluck().all();

describe('cutting a link export', () => {
  it('takes outside domains with what links to them, and every row is counted', async () => {
    const { source, changed } = await cut(fileOf(TEXT), { excludedEndings: ['uk'], knownSites: ['merrowmaps.com'] });
    expect(names()).toEqual(['x.org']);
    const { id } = findDomain(store, 'x.org')!;
    expect(sightingsOf(store, id)[0].said).toEqual({ links: 2, pages: 2, sites: 1, nofollow: 1 });
    expect([...changed]).toEqual([id]);
    expect(source).toMatchObject({
      rows_read: 6,
      rows_taken: 4,
      rows_repeated: 1,
      rows_excluded: 0,
      rows_set_aside: 1,
      domains_new: 1,
      detail: { domains: 3, few: 0 },
    });
    expect([...eachLeftOut(store, source.id)]).toEqual([
      { name: 'merrowmaps.com', causes: ['known-site'] },
      { name: 'y.co.uk', causes: ['ending'] },
    ]);
    expect([...eachReject(store, source.id)]).toEqual([
      { line: 7, reason: 'no address with a registrable domain', sample: 'mailto:us' },
    ]);
  });

  it.each<[string, (text: string) => Buffer]>([
    ['gzip', (text) => gzipSync(text)],
    ['UTF-16', (text) => Buffer.from(`\ufeff${text}`, 'utf16le')],
    ['tabs', (text) => Buffer.from(text.replaceAll(',', '\t'))],
    [
      'JSON Lines',
      (text) => {
        const [, ...rows] = text.trim().split('\n');
        const lines = rows.map((row) => {
          const [source, target, anchor, rel] = row.split(',');
          return JSON.stringify({ source, target, anchor, rel });
        });
        return Buffer.from(lines.join('\n'));
      },
    ],
  ])('reads %s the same', async (_, encode) => {
    const { source } = await cut(fileOf(encode(TEXT)));
    expect(names()).toEqual(['merrowmaps.com', 'x.org', 'y.co.uk']);
    expect(source).toMatchObject({ rows_read: 6, rows_taken: 4, rows_repeated: 1, rows_set_aside: 1 });
  });

  it('goes on where it was after an interruption, and writes nothing twice', async () => {
    const rows = Array.from({ length: 5000 }, (_, i) => `http://a.org/,http://hive${i}.org/`);
    const path = fileOf(`from,to\n${rows.join('\n')}\n`);
    const params = { path, columns: ['from', 'to'] };
    const run = trial(store, 'cut', params);
    const changed = run.context.changed;
    run.context.changed = (ids, source) => {
      changed(ids, source);
      run.stop.abort();
    };
    await expect(runCut(run.context)).rejects.toBeInstanceOf(Stopped);
    expect(names()).toHaveLength(2000);
    await runCut(trial(store, 'cut', params, run).context);
    expect(names()).toHaveLength(5000);
    expect(readSource(store, run.sourceId)).toMatchObject({ rows_read: 5000, rows_taken: 5000, domains_new: 5000 });
  });

  it('leaves out what too few link to, and says how many', async () => {
    const path = fileOf(
      'from,to\nhttp://a.org/,http://x.org/\nhttp://b.org/,http://x.org/\nhttp://b.org/,http://y.org/\n',
    );
    const { source } = await cut(path, { leastSites: 2 });
    expect(names()).toEqual(['x.org']);
    expect(source.detail).toMatchObject({ domains: 1, few: 1 });
  });
});

describe('the preview of a link export', () => {
  it('shows rows as they will be read, and remembers columns by the header', async () => {
    const path = fileOf(
      'Page;Goes to;Words\nhttp://a.org/;http://www.x.org/;hive\nhttp://a.org/;http://a.org/2;more\n',
    );
    const look = await lookAtLinks(store, path, {});
    expect(look).toMatchObject({ delimiter: ';', columns: ['from', 'to', 'ignore'], remembered: false });
    const settled = await lookAtLinks(store, path, { columns: ['from', 'to', 'anchor'] });
    expect(settled.readings).toEqual([
      { from: 'a.org', to: 'x.org', isInside: false },
      { from: 'a.org', to: 'a.org', isInside: true },
    ]);
    rememberLinks(store, settled, settled.columns);
    expect(await lookAtLinks(store, path, {})).toMatchObject({ columns: ['from', 'to', 'anchor'], remembered: true });
  });

  it('finds from and to by their addresses where there is no header', async () => {
    const look = await lookAtLinks(store, fileOf('7,http://a.org/,http://x.org/\n8,http://a.org/,http://y.org/\n'), {});
    expect(look).toMatchObject({ hasHeader: false, columns: ['ignore', 'from', 'to'] });
  });
});
