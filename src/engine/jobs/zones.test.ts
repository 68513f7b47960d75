import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { findDomain, sightingsOf } from '../../store/domains/domains';
import { eachReject, readSource } from '../../store/sources/sources';
import { Stopped } from '../runner/context';
import { type Trial, trial } from './testing';
import { runZones } from './zones';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});

const OLDER = `$ORIGIN org.
@ IN SOA a.nic.org. x. ( 1 1 1 1 1 )
@ NS a.nic.org.
pellgatehives NS ns1.vale.org.
pellgatehives NS ns2.vale.org.
mirrowbybees NS ns1.vale.org.
cradlewickwax NS ns1.vale.org.
kept NS ns1.vale.org.
broken NS
ns1.kept A 127.0.0.1
`;
const NEWER = `$ORIGIN org.
@ NS a.nic.org.
mirrowbybees NS ns1.parkvale.com.
mirrowbybees NS ns2.parkvale.com.
kept NS ns1.vale.org.
`;
function fileOf(content: string | Buffer): string {
  const path = join(store.folder, `zone-${Math.random()}`);
  writeFileSync(path, content);
  return path;
}
const params = (older: string | Buffer, newer: string | Buffer, more = {}) => ({
  older: fileOf(older),
  newer: fileOf(newer),
  parking: ['parkvale.com'],
  ...more,
});
const pool = () => store.raw.prepare('SELECT name FROM domains WHERE in_pool = 1 ORDER BY name').pluck().all();
function adds(run: Trial) {
  const source = readSource(store, run.sourceId)!;
  const { rows_read, rows_taken, rows_repeated, rows_excluded, rows_set_aside } = source;
  expect(rows_read).toBe(rows_taken + rows_repeated + rows_excluded + rows_set_aside);
  return source;
}

describe('comparing two copies of a zone', () => {
  it('puts what is gone and what moved to parking servers into the pool, with what happened', async () => {
    const run = trial(store, 'zones', params(OLDER, gzipSync(NEWER)));
    await runZones(run.context);
    expect(pool()).toEqual(['cradlewickwax.org', 'mirrowbybees.org', 'pellgatehives.org']);
    expect(sightingsOf(store, findDomain(store, 'mirrowbybees.org')!.id)[0].said).toEqual({ change: 'parked' });
    expect(sightingsOf(store, findDomain(store, 'pellgatehives.org')!.id)[0].said).toEqual({ change: 'gone' });
    expect(adds(run)).toMatchObject({ rows_read: 13, rows_taken: 3, rows_set_aside: 1, domains_new: 3 });
    expect([...eachReject(store, run.sourceId)]).toMatchObject([
      { line: 9, reason: 'the record has no type or no data (older copy)' },
    ]);
    expect(run.progress.at(-1)?.message).toBe('2 names are gone, 1 moved to parking servers');
    expect(run.changed.size).toBe(3);
  });

  it('leaves out excluded endings, and counts them', async () => {
    const run = trial(store, 'zones', params(OLDER, NEWER, { excludedEndings: ['org'] }));
    await runZones(run.context);
    expect(pool()).toEqual([]);
    expect(adds(run)).toMatchObject({ rows_excluded: 3, rows_taken: 0 });
  });

  it('ends the same after being stopped while it writes', async () => {
    const many = Array.from({ length: 5000 }, (_, i) => `vale${i}hive NS ns1.vale.org.`).join('\n');
    const order = params(`$ORIGIN org.\n${many}\n`, '$ORIGIN org.\n@ NS a.nic.org.\n');
    const run = trial(store, 'zones', order);
    const { changed } = run.context;
    run.context.changed = (ids, source) => {
      changed(ids, source);
      run.stop.abort();
    };
    await expect(runZones(run.context)).rejects.toThrow(Stopped);
    expect(pool()).toHaveLength(2000);
    const again = trial(store, 'zones', order, run);
    await runZones(again.context);
    expect(pool()).toHaveLength(5000);
    expect(adds(again)).toMatchObject({ rows_read: 5001, rows_taken: 5000, domains_new: 5000 });
  });

  it.each([
    ['pellgate.org\nmirrowby.org\n', 'The newer copy holds no delegation (NS record): it is no zone file.'],
    [gzipSync(NEWER).subarray(0, 60), /damaged or cut short/],
  ])('refuses what is no zone', async (newer, message) => {
    await expect(runZones(trial(store, 'zones', params(OLDER, newer)).context)).rejects.toThrow(message);
    expect(pool()).toEqual([]);
  });
});
