import { createWriteStream, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { beforeEach, describe, expect, it } from 'vitest';
import { previewList } from '../../core/formats/list-columns';
import { LIST_FIGURES, type ListFigure } from '../../core/formats/list-figures';
import { ratesOf } from '../../core/settings/settings';
import type { Store } from '../../store/base/database';
import { changeSettings, readSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { findDomain, sightingsOf } from '../../store/domains/domains';
import { readPoolRow } from '../../store/domains/pool-rows.sql';
import { scoreNamesOf } from '../../store/sources/list-figures';
import { eachReject, readSource } from '../../store/sources/sources';
import { lookAtFile } from '../files/text-file';
import { PoolHost } from '../pool/host';
import { Stopped } from '../runner/context';
import { runList } from './list';
import { trial } from './testing';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});

function fileOf(content: string | Buffer): string {
  const path = join(store.folder, `list-${Math.random()}`);
  writeFileSync(path, content);
  return path;
}

/** Imports as the interface does: by what the preview recognises. */
async function load(path: string, more: Record<string, unknown> = {}) {
  const { delimiter, hasHeader, columns } = previewList((await lookAtFile(path)).sample);
  const run = trial(store, 'list', { path, delimiter, hasHeader, columns, ...more });
  await runList(run.context);
  return { ...run, source: readSource(store, run.sourceId)!, rejects: [...eachReject(store, run.sourceId)] };
}
const names = () => store.raw.prepare('SELECT name FROM domains WHERE in_pool = 1 ORDER BY name').pluck().all();
const adds = (source: {
  rows_read: number;
  rows_taken: number;
  rows_repeated: number;
  rows_excluded: number;
  rows_set_aside: number;
}) => source.rows_read === source.rows_taken + source.rows_repeated + source.rows_excluded + source.rows_set_aside;

describe('importing a list', () => {
  it('takes domains with what the list says of them', async () => {
    const { source, changed } = await load(
      fileOf(
        'Domain,Status,Drop date,Price,Closes\nwww.pellgatehives.org/x,pending delete,2026-11-27,$69,2026-11-26 18:00\n',
      ),
    );
    const row = findDomain(store, 'pellgatehives.org')!;
    expect(row).toMatchObject({
      in_pool: 1,
      phase: 'pending-delete',
      phase_at: null,
      drop_at: Date.UTC(2026, 10, 27),
      price_minor: 6900,
      currency: 'USD',
      closing_at: Date.UTC(2026, 10, 26, 18),
    });
    expect(sightingsOf(store, row.id)[0]).toMatchObject({
      line: 2,
      said: { phase: 'pending-delete', priceMinor: 6900 },
    });
    expect(source).toMatchObject({ rows_read: 1, rows_taken: 1, domains_new: 1 });
    expect([...changed]).toEqual([row.id]);
  });

  it('keeps what each row said, also of a file whose last line does not end, and over all of its parts', async () => {
    const rows = (many: number) =>
      Array.from({ length: many }, (_, n) => `pellgate${n}.org,Quillmere of the long name,${n + 1}`);
    for (const many of [3, 40_000]) {
      store = await freshStore();
      await load(fileOf(`domain,venue,price\n${rows(many).join('\n')}`));
      const step = many > 100 ? 23 : 1;
      const looked = [...Array.from({ length: Math.ceil(many / step) }, (_, n) => n * step), many - 1];
      const wrong = looked.flatMap((n) => {
        const [{ said }] = sightingsOf(store, findDomain(store, `pellgate${n}.org`)!.id);
        return said.priceMinor === 100 * (n + 1) ? [] : [[n, said]];
      });
      expect(wrong).toEqual([]);
    }
  });

  it('counts repeats, exclusions and rows set aside, and they add up', async () => {
    const { source, rejects } = await load(
      fileOf('a-one.org\nnonsense\nb-two.co.uk\na-one.org\nhttp://www.a-one.org/y\nc.edu\n'),
      {
        excludedEndings: ['uk', 'edu'],
      },
    );
    expect(source).toMatchObject({
      rows_read: 6,
      rows_taken: 1,
      rows_repeated: 2,
      rows_excluded: 2,
      rows_set_aside: 1,
    });
    expect(adds(source)).toBe(true);
    expect(rejects).toEqual([{ line: 2, reason: '"nonsense" is no registrable domain', sample: 'nonsense' }]);
  });

  it('of the same file twice adds sightings, not domains', async () => {
    const path = fileOf('domain,drop date\na.org,2026-11-27\nb.org,2026-11-28\n');
    await load(path);
    const before = names();
    const { source } = await load(path);
    expect(source).toMatchObject({ rows_read: 2, rows_taken: 2, rows_repeated: 0, domains_new: 0 });
    expect(names()).toEqual(before);
    expect(sightingsOf(store, findDomain(store, 'a.org')!.id)).toHaveLength(2);
  });

  it('does not lose what a server said to what a list says', async () => {
    await load(fileOf('domain,status\npellgate.org,deleted\n'));
    store.raw.prepare("UPDATE domains SET phase = 'active', phase_at = 5").run();
    await load(fileOf('domain,status\npellgate.org,pending delete\n'));
    expect(findDomain(store, 'pellgate.org')!.phase).toBe('active');
  });

  it('reads gzip, UTF-16 and windows-1252', async () => {
    await load(fileOf(gzipSync('packed.org\nmore.org\n')));
    await load(fileOf(Buffer.from('\ufeffwide.org\r\nbücher.de\r\n', 'utf16le')));
    await load(fileOf(Buffer.from('domain;note\nhönig.de;gr\xfc\xdfe\n', 'latin1')));
    expect(names()).toEqual(['more.org', 'packed.org', 'wide.org', 'xn--bcher-kva.de', 'xn--hnig-5qa.de']);
  });

  it('counts every name of a line, those that are left out among them', async () => {
    const lines = 'bees.org, hives.de, wax.org\nonly.de, more.de\nno names here\nbees.org, comb.com\n';
    const { source } = await load(fileOf(lines), { excludedEndings: ['de'] });
    expect(source).toMatchObject({
      rows_read: 8,
      rows_taken: 3,
      rows_repeated: 1,
      rows_excluded: 3,
      rows_set_aside: 1,
    });
    expect(adds(source)).toBe(true);
    expect(names()).toEqual(expect.arrayContaining(['bees.org', 'comb.com', 'wax.org']));
    expect(names()).not.toContain('hives.de');
    // the same where values stand beside names that are alone in their cells
    const plain = await load(fileOf('domain,bids\nnectar.org,3\nskep.de,many\n"smoker.org, veil.de",5\n'), {
      excludedEndings: ['de'],
    });
    expect(plain.source).toMatchObject({ rows_read: 4, rows_taken: 2, rows_excluded: 2, rows_set_aside: 0 });
  });

  it('looks through the whole list for the order of its dates, and says what it could not understand', async () => {
    const early = Array.from(
      { length: 30_000 },
      (_, n) => `dated${n}.org;0${1 + (n % 9)}/11/2026;${n % 4 ? n : 'many'}`,
    );
    const { source } = await load(
      fileOf(`Domain;Drop date;Backlinks\n${early.join('\n')}\nlast-dated.org;28/11/2026;-\n`),
    );
    const dropOf = store.raw.prepare('SELECT drop_at FROM domains WHERE name = ?').pluck();
    expect(dropOf.get('dated0.org')).toBe(Date.UTC(2026, 10, 1));
    expect(dropOf.get('dated4.org')).toBe(Date.UTC(2026, 10, 5));
    expect(source.detail.tally).toEqual([
      { column: 1, read: 30_001, empty: 0, notUnderstood: 0, examples: [] },
      { column: 2, read: 22_500, empty: 1, notUnderstood: 7500, examples: ['many'] },
    ]);
    // as the dossier says it
    const id = store.raw.prepare("SELECT id FROM domains WHERE name = 'dated5.org'").pluck().get() as number;
    expect(sightingsOf(store, id)[0].said).toMatchObject({ dropAt: Date.UTC(2026, 10, 6), backlinks: 5 });
    const untold = await load(fileOf('Domain;Drop date\nuntold.org;05/11/2026\n'));
    expect(dropOf.get('untold.org')).toBeNull();
    expect(untold.source.detail.tally).toMatchObject([{ notUnderstood: 1, examples: ['05/11/2026'] }]);
    await load(fileOf('Domain;Drop date\ntold.org;05/11/2026\n'), { order: 'month-first' });
    expect(dropOf.get('told.org')).toBe(Date.UTC(2026, 4, 11));
  });

  it.each([
    ['at the end of a window', 5000],
    ['within one', 31_000],
  ])('goes on where it was stopped, %s, with the same outcome', async (where, most) => {
    const lines = Array.from({ length: 50_000 }, (_, i) => (i % 50 === 7 ? `broken ${i}` : `name${i % 35_000}.org`));
    const path = fileOf(`domain\n${lines.join('\n')}\n`);
    const params = { path, delimiter: ',', hasHeader: true, columns: ['domain'], now: 1 };
    const whole = trial(store, 'list', params);
    await runList(whole.context);
    const first = trial(store, 'list', params);
    const { changed } = first.context;
    first.context.changed = (ids, source) => {
      changed(ids, source);
      if (first.changed.size > most) first.stop.abort();
    };
    await expect(runList(first.context)).rejects.toThrow(Stopped);
    expect(readSource(store, first.sourceId)!.rows_read).toBeLessThan(50_000);
    const second = trial(store, 'list', params, first);
    const { items, parts } = second.context.job.checkpoint as { items: number; parts: number };
    expect(items).toBeGreaterThan(most / 2);
    expect(parts > 0).toBe(where === 'within one');
    await runList(second.context);
    const { domains_new: _, id: __, created_at: ___, ...expected } = readSource(store, whole.sourceId)!;
    expect(readSource(store, first.sourceId)).toMatchObject(expected);
    expect([...eachReject(store, first.sourceId)]).toEqual([...eachReject(store, whole.sourceId)]);
  });
});

describe('bad input', () => {
  beforeEach(async () => {
    await load(fileOf('kept.org\n'));
  });
  const nothingLost = () => expect(names()).toContain('kept.org');

  it('broken quotes cost one line each', async () => {
    const { source, rejects } = await load(fileOf('domain,note\na.org,"open\nb.org,fine\nc.org,"x"y\nd.org,fine\n'));
    expect(names()).toEqual(['b.org', 'd.org', 'kept.org']);
    expect(rejects.map(({ line, reason }) => [line, reason])).toEqual([
      [2, 'a quote is opened and never closed'],
      [4, 'text follows a closing quote'],
    ]);
    expect(adds(source)).toBe(true);
  });
  it('NUL bytes cost the row', async () => {
    const { rejects } = await load(fileOf('a.org\nb\u0000.org\nc.org\n'));
    expect(names()).toEqual(['a.org', 'c.org', 'kept.org']);
    expect(rejects).toMatchObject([{ line: 2, reason: 'the row holds NUL characters' }]);
  });
  it('bytes of another character set are set aside, not guessed', async () => {
    const mixed = Buffer.concat([
      Buffer.from('grüße.de\nöde.de\nb'),
      Buffer.from([0xfc]),
      Buffer.from('cher.de\nlast.org\n'),
    ]);
    const { rejects } = await load(fileOf(mixed));
    expect(rejects).toMatchObject([
      { line: 3, reason: "the name holds bytes that are not in the file's character set" },
    ]);
    expect(names()).toContain('last.org');
  });
  it('a line of 50 MB is set aside without being kept', async () => {
    const path = join(store.folder, 'long.csv');
    const out = createWriteStream(path);
    out.write('a.org\n');
    for (let i = 0; i < 50; i++) out.write('x'.repeat(1 << 20));
    out.end('\nb.org\n');
    await new Promise<void>((done) => out.on('close', () => done()));
    const { rejects } = await load(path);
    expect(names()).toEqual(['a.org', 'b.org', 'kept.org']);
    expect(rejects).toHaveLength(1);
    expect(rejects[0].reason).toContain('longer than');
  });
  it.each([
    ['an empty file', '', 'The file is empty.'],
    ['a ZIP named .csv', Buffer.from('PK\u0003\u0004rest'), 'This is a ZIP archive'],
    ['a PDF', '%PDF-1.7', 'This is a PDF'],
    ['damaged gzip', Buffer.concat([gzipSync('a.org').subarray(0, 12), Buffer.from('junk')]), 'gzip file is damaged'],
    ['packed emptiness', gzipSync(''), 'The file is empty.'],
  ])('%s gets a clear message', async (_what, content, message) => {
    await expect(lookAtFile(fileOf(content))).rejects.toThrow(message);
    nothingLost();
  });
  it('gzip cut short keeps what came before', async () => {
    const packed = gzipSync(Array.from({ length: 200_000 }, (_, i) => `n${(i * 7919) % 1e6}x${i}.org`).join('\n'));
    const path = fileOf(packed.subarray(0, packed.length - 1000));
    await expect(load(path)).rejects.toThrow('damaged or cut short');
    nothingLost();
    expect(names().length).toBeGreaterThan(1000);
  });
});

describe('figures that a list states', () => {
  const rules = () => ratesOf(readSettings(store));
  const shown = (host: PoolHost, name: string) => {
    const { columns } = host.questions;
    const row = columns.rowOf(findDomain(store, name)!.id);
    const of = (fact: ListFigure) => {
      const value = columns.numbers[fact][row] ?? Number.NaN;
      return Number.isNaN(value) ? null : Math.round(value * 100) / 100;
    };
    return LIST_FIGURES.map(of);
  };
  /** The pool as it stands after a start. */
  const started = () => {
    const host = new PoolHost(store);
    host.rebuild();
    return host;
  };
  const HEAD = 'Domain,Ref domains,Backlinks,Traffic,Keywords,Position,CPC,Pull score,Reach score\n';

  it('are sifted and sorted by, each from the list that was read last', async () => {
    changeSettings(store, { rates: { USD: 0.5 } });
    await load(fileOf(`${HEAD}a.org,12,340,1.2k,80,3.5,$2.40,41/100,7\nb.org,,,,,,,,\n`));
    expect(shown(started(), 'a.org').slice(0, 9)).toEqual([12, 340, 1200, 80, 3.5, 1.2, 41, 7, null]);
    expect(shown(started(), 'b.org').every((value) => value === null)).toBe(true);
    const at = store.now();
    store.now = () => at + 1000;
    // another list knows less, and has a score of its own
    await load(fileOf('Domain,Traffic,Weight score,Reach score\na.org,90,5,8\nc.org,7,6,9\n'));
    expect(shown(started(), 'a.org').slice(0, 9)).toEqual([12, 340, 90, 80, 3.5, 1.2, 41, 8, 5]);
    expect(readPoolRow(store, findDomain(store, 'a.org')!.id, rules())?.listTraffic).toBe(90);
    changeSettings(store, { countRule: 'largest' });
    expect(shown(started(), 'a.org')[2]).toBe(1200);
  });

  it('are those of the last reading, of a list that is read again and of a name that it has twice', async () => {
    const first = await load(fileOf('Domain,Traffic\na.org,10\na.org,11\nb.org,5\n'));
    expect(shown(started(), 'a.org')[2]).toBe(11);
    const again = trial(store, 'list', {
      path: fileOf('Domain,Traffic\na.org,30\nb.org,\n'),
      hasHeader: true,
      columns: ['domain', 'traffic'],
    });
    Object.assign(again.context.job, { sourceId: first.sourceId });
    await runList(again.context);
    expect(shown(started(), 'a.org')[2]).toBe(30);
    // what it does not say any more it said before
    expect(shown(started(), 'b.org')[2]).toBe(5);
    // nor does the list when it has no such column any more, after a start as before it
    const bare = trial(store, 'list', { path: fileOf('Domain\na.org\n'), hasHeader: true, columns: ['domain'] });
    Object.assign(bare.context.job, { sourceId: first.sourceId });
    await runList(bare.context);
    expect(shown(started(), 'a.org')[2]).toBe(30);
    expect(readPoolRow(store, findDomain(store, 'a.org')!.id, rules())?.listTraffic).toBe(30);
  });

  it('have eight places for scores; further ones are kept in the rows as they stood', async () => {
    const names = ['Pull', 'Reach', 'Weight', 'Grip', 'Draw', 'Heft', 'Span', 'Lift', 'Bulk'].map(
      (one) => `${one} score`,
    );
    const { source } = await load(fileOf(`Domain,${names.join(',')}\na.org,1,2,3,4,5,6,7,8,9\n`));
    expect(shown(started(), 'a.org').slice(6)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    expect(scoreNamesOf(store)).toEqual(names.slice(0, 8));
    expect(source.detail.stated).toEqual(['listScore', ...[2, 3, 4, 5, 6, 7, 8].map((n) => `listScore${n}`)]);
    const [{ said }] = sightingsOf(store, findDomain(store, 'a.org')!.id);
    expect(said.scores).toContainEqual({ name: 'Bulk score', value: 9, of: null });
  });
});
