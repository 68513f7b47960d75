import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LIST_PHASES, ListBatchBuilder } from '../../core/formats/list-batch';
import { LISTING_KINDS } from '../../core/formats/list-fields';
import { NOTHING_SAID } from '../../core/formats/list-row';
import type { Rates } from '../../core/listings/rates';
import { CHOICE_FACTS, MEMBER_FACTS, NUMBER_FACTS, type PoolRow, TIME_FACTS } from '../../core/pool/facts';
import { type Store, write } from '../../store/base/database';
import { changeSettings } from '../../store/base/settings';
import { statement } from '../../store/base/statement';
import { freshStore } from '../../store/base/testing';
import { putDomain, putSighting } from '../../store/domains/domains';
import { actOn, beginAction, tagNamed } from '../../store/domains/marks';
import { eachMember, eachMembership, eachPoolRow, readPoolRow } from '../../store/domains/pool-rows.sql';
import { keepCoined, readCoined } from '../../store/pool/pool-changes';
import { saveBrief } from '../../store/shortlist/briefs';
import { putListBatch } from '../../store/sources/lists.sql';
import { addSource } from '../../store/sources/sources';
import { PoolHost } from './host';

/** What the index holds, row by row, and what the database holds. */
function bothSides(store: Store, host: PoolHost, rates: Rates = { home: 'EUR', worth: {} }) {
  const { columns } = host.questions;
  const fromIndex = Array.from({ length: columns.count }, (_, row) => ({
    id: columns.ids[row],
    name: columns.nameOf(row),
    choices: CHOICE_FACTS.map((fact) => columns.dictionaries[fact].words[columns.choices[fact][row] ?? 0] || null),
    times: TIME_FACTS.map((fact) => columns.times[fact][row] || null),
    numbers: GIVEN.map((fact) => {
      const value = columns.numbers[fact][row] ?? Number.NaN;
      return Number.isNaN(value) ? null : value;
    }),
    sets: MEMBER_FACTS.flatMap((fact) =>
      [...columns.members[fact].keys()]
        .filter((set) => columns.isMember(fact, set, row))
        .map((set) => `${fact} ${set}`),
    ).sort(),
  })).sort((a, b) => a.id - b.id);
  const memberships = [
    ...[...eachMembership(store)].map(([source, domain]) => [domain, `source ${source}`] as const),
    ...(['tag', 'shortlist', 'fresh'] as const).flatMap((fact) =>
      [...eachMember(store, fact)].map(([set, domain]) => [domain, `${fact} ${set}`] as const),
    ),
  ];
  const fromDatabase = [...eachPoolRow(store, rates)].map(({ id }) => {
    const row = readPoolRow(store, id, rates) as PoolRow;
    return {
      id,
      name: row.name,
      // what names are about is looked for when it is asked
      choices: CHOICE_FACTS.map((fact) => (fact === 'nameSubject' ? null : row[fact])),
      times: TIME_FACTS.map((fact) => row[fact]),
      numbers: GIVEN.map((fact) => (row[fact] === null ? null : Math.fround(row[fact] as number))),
      sets: memberships
        .filter(([domain]) => domain === id)
        .map(([, set]) => set)
        .sort(),
    };
  });
  return { index: fromIndex, database: fromDatabase };
}
const STATED = ['listReferringDomains', 'listBacklinks', 'listCpc', 'listScore'] as const;
const GIVEN = NUMBER_FACTS.filter((fact) => fact !== 'words' && fact !== 'trustShare');

describe('PoolHost', () => {
  it('learns words of the pool that are in no list, and keeps them for the next start', async () => {
    const store = await freshStore();
    const source = addSource(store, 'list', 'l', {});
    const brief = {
      purpose: 'rebuild' as const,
      trustedSites: [],
      excludedEndings: [],
      budgetMinor: null,
      currency: 'EUR',
    };
    saveBrief(store, { ...brief, name: 'b', subjectWords: ['bee'] });
    const words = 'bee hive honey market walks garden press stars choir mill orchard school'.split(' ');
    const tails = ['club', 'guild', 'log', 'path', 'notes', 'weekly'];
    for (const place of ['bramwithy', 'ossenmere', 'dunscarrow', 'eskerby', 'cradlewick'])
      for (const word of words)
        for (const tail of tails) {
          const { id } = putDomain(store, { name: `${place}${word}${tail}.org`, ending: 'org' }, true, 1);
          putSighting(store, id, source, 1, null, {});
        }
    const beeNames = async (host: PoolHost) => {
      const values = ['bee'];
      const part = { type: 'text' as const, fact: 'name' as const, mode: 'word' as const, values, not: false };
      const sorts = [{ fact: 'name' as const, descending: false }];
      return (await host.query({ parts: [part], sorts, offset: 0, limit: 9, histograms: [] })).total;
    };
    const host = new PoolHost(store);
    host.rebuild();
    await expect.poll(() => readCoined(store).words.length, { timeout: 10_000 }).toBe(5);
    await expect.poll(() => beeNames(host), { timeout: 10_000 }).toBe(30);
    await expect.poll(() => host.save(() => true), { timeout: 10_000 }).toBe(true);
    const next = new PoolHost(store);
    expect(next.load()).toBeNull();
    expect(await beeNames(next)).toBe(30);
    // words that came after the snapshot was written
    keepCoined(store, { words: [], names: 360 });
    const other = new PoolHost(store);
    expect(other.load()).toBeNull();
    await expect.poll(() => beeNames(other), { timeout: 10_000 }).not.toBe(30);
    await store.close();
  });

  it('equals the database after any changes, and after a rebuild', async () => {
    const store = await freshStore();
    const sources = [addSource(store, 'list', 'one', {}), addSource(store, 'list', 'two', {})];
    const host = new PoolHost(store);
    host.rebuild();
    const change = fc.record({
      name: fc.integer({ min: 0, max: 40 }).map((n) => ({ name: `vale${n}.org`, ending: 'org' })),
      inPool: fc.boolean(),
      source: fc.constantFrom(...sources),
      phase: fc.constantFrom('free', 'active', 'unknown'),
      strength: fc.option(fc.double({ min: 0, max: 100, noNaN: true }), { nil: null }),
      registered: fc.option(fc.integer({ min: 1_000_000, max: 1.7e12 }), { nil: null }),
      price: fc.option(fc.nat(100_000), { nil: null }),
      isLeaving: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(change, { maxLength: 30 }), (changes) => {
        for (const { name, inPool, source, phase, strength, registered, price, isLeaving } of changes) {
          const { id } = putDomain(store, name, inPool, 1);
          if (inPool) putSighting(store, id, source, 1, null, {});
          statement(
            store.raw,
            'UPDATE domains SET phase = ?, strength = ?, registered_at = ?, price_minor = ? WHERE id = ?',
          ).run(phase, strength, registered, price, id);
          host.refresh([id], inPool ? source : null);
          if (!isLeaving) continue;
          statement(store.raw, 'DELETE FROM sightings WHERE domain_id = ?').run(id);
          statement(store.raw, 'UPDATE domains SET in_pool = 0 WHERE id = ?').run(id);
          host.remove(Uint32Array.of(id), source, false);
        }
        const live = bothSides(store, host);
        expect(live.index).toEqual(live.database);
      }),
      { numRuns: 40 },
    );
    host.rebuild();
    const rebuilt = bothSides(store, host);
    expect(rebuilt.index).toEqual(rebuilt.database);
    expect(rebuilt.index.length).toBeGreaterThan(0);
  });

  it('takes in the batches of lists as the database does, with names that are known among them', async () => {
    const store = await freshStore();
    // both sides write down when a name was named, one after the other
    const at = store.now();
    store.now = () => at;
    changeSettings(store, { rates: { GBP: 1.5 } });
    const rates = { home: 'EUR', worth: { GBP: 1.5 } };
    const sources = [
      addSource(store, 'list', 'one', { venue: 'Thornabeck Rooms', stated: STATED }),
      addSource(store, 'list', 'two', { stated: STATED }),
    ];
    const host = new PoolHost(store);
    const maybe = <T>(value: fc.Arbitrary<T>) => fc.option(value, { nil: null });
    const time = maybe(fc.integer({ min: 1, max: 1.9e12 }));
    const row = fc.record({
      name: fc.nat(400),
      ending: fc.constantFrom('org', 'co.uk'),
      phase: maybe(fc.constantFrom(...LIST_PHASES)),
      kind: maybe(fc.constantFrom(...LISTING_KINDS)),
      venue: maybe(fc.constant('Saltmarch Exchange')),
      currency: maybe(fc.constantFrom('EUR', 'GBP', 'SEK')),
      priceMinor: maybe(fc.nat(1e7)),
      bids: maybe(fc.nat(50)),
      dropAt: time,
      closingAt: time,
      registeredAt: time,
      backlinks: maybe(fc.nat(1e6)),
      referringDomains: maybe(fc.nat(1e5)),
      cpcMinor: maybe(fc.nat(900)),
      cpcCurrency: maybe(fc.constantFrom('EUR', 'GBP', 'SEK')),
      pull: maybe(fc.nat(100)),
    });
    fc.assert(
      fc.property(fc.array(row, { maxLength: 60 }), fc.constantFrom(0, 1), (rows, which) => {
        const builder = new ListBatchBuilder(100, STATED, { Pull: 0 });
        for (const [line, { name, pull, ...said }] of rows.entries())
          builder.add({ ...NOTHING_SAID, ...said, scores: pull === null ? [] : [{ name: 'Pull', value: pull, of: 100 }], domain: `vale${name}-x.${said.ending}` }, line + 1); // biome-ignore format: a row
        const [batch] = builder.take(100);
        if (!batch) return;
        const venue = which === 0 ? 'Thornabeck Rooms' : null;
        const { ids, isNew } = write(store, () =>
          putListBatch(store, sources[which], batch, venue, store.now(), rates),
        );
        host.add(batch, ids, isNew, sources[which]);
      }),
      { numRuns: 40 },
    );
    const live = bothSides(store, host, rates);
    expect(live.index).toEqual(live.database);
    expect(live.index.length).toBeGreaterThan(100);
    const cpc = GIVEN.indexOf('listCpc');
    expect(live.index.some(({ numbers }) => (numbers[cpc] ?? 0) > 9)).toBe(true);
    // what a value was once still counts
    const { extents } = host.questions.columns;
    host.rebuild();
    for (const fact of ['price', 'bids', 'length', 'digits', 'age', 'drop'] as const) {
      const [low, high] = extents[fact] ?? [];
      const [least, most] = host.questions.columns.extents[fact] ?? [];
      expect([fact, low]).toEqual([fact, Math.min(Number(low), Number(least))]);
      expect([fact, high]).toEqual([fact, Math.max(Number(high), Number(most))]);
      expect(Number.isFinite(high)).toBe(true);
    }
    await store.close();
  });

  it('keeps what another source has named again before its leaving was told', async () => {
    const store = await freshStore();
    const [undone, other] = ['one', 'two'].map((name) => addSource(store, 'list', name, {}));
    const [back, gone] = ['back', 'gone'].map(
      (name) => putDomain(store, { name: `${name}.org`, ending: 'org' }, true, 1).id,
    );
    const host = new PoolHost(store);
    host.rebuild();
    statement(store.raw, 'UPDATE domains SET in_pool = 0 WHERE id = ?').run(gone);
    putSighting(store, back, other, 2, null, {});
    host.remove(Uint32Array.of(back, gone), undone, true);
    const sides = () => bothSides(store, host);
    await expect.poll(() => sides().index).toEqual(sides().database);
    const { index } = sides();
    expect(index.map(({ name, sets }) => [name, sets])).toEqual([['back.org', [`source ${other}`]]]);
  });

  it('prices in the user’s currency, and anew when the rates are changed', async () => {
    const store = await freshStore();
    changeSettings(store, { rates: { GBP: 1.5 } });
    const names = ['pounds', 'euros', 'crowns', 'no-currency'];
    const ids = names.map((name) => putDomain(store, { name: `${name}.org`, ending: 'org' }, true, 1).id);
    const set = statement(store.raw, 'UPDATE domains SET price_minor = 1000, currency = ? WHERE id = ?');
    for (const [index, currency] of ['GBP', 'EUR', 'SEK', null].entries()) set.run(currency, ids[index]);
    const host = new PoolHost(store);
    host.rebuild();
    const prices = () => ids.map((id) => host.questions.columns.numbers.price[host.questions.columns.rowOf(id)]);
    expect(prices()).toEqual([15, 10, Number.NaN, 10]);
    changeSettings(store, { rates: { GBP: 1.25, SEK: 0.1 } });
    await host.reprice();
    expect(prices()).toEqual([12.5, 10, 1, 10]);
  });

  it('starts from its snapshot and what changed since', async () => {
    const store = await freshStore();
    const source = addSource(store, 'list', 'one', {});
    const put = (name: string, at: number) => {
      const { id } = putDomain(store, { name: `${name}.org`, ending: 'org' }, true, at);
      putSighting(store, id, source, at, null, {});
      return id;
    };
    const ids = Array.from({ length: 300 }, (_, i) => put(`pellgatebee${i}`, 5000 + i));
    const host = new PoolHost(store);
    expect(host.load()).toBe('there is no snapshot');
    while (host.questions.columns.splitCount < host.size) await new Promise((resolve) => setTimeout(resolve, 5));
    expect(await host.save(() => false)).toBe(false);
    // once the names are split
    await expect.poll(() => host.save(() => true)).toBe(true);
    expect(await host.save(() => true)).toBe(false);

    // from here on the first host knows nothing of what happens
    const act = { kind: 'judge', judged: 'spam', reason: 'a test' } as const;
    actOn(store, beginAction(store, act), act, ids.slice(0, 7));
    const tag = tagNamed(store, 'bees');
    actOn(store, beginAction(store, { kind: 'tag', tag }), { kind: 'tag', tag }, [ids[9]]);
    statement(store.raw, 'UPDATE domains SET strength = 41 WHERE id = ?').run(ids[20]);
    statement(store.raw, 'UPDATE domains SET in_pool = 0 WHERE id = ?').run(ids[30]);
    put('later', 9000);
    statement(store.raw, 'UPDATE sources SET rows_taken = 301 WHERE id = ?').run(source);

    const second = new PoolHost(store);
    expect(second.load()).toBeNull();
    const { index, database } = bothSides(store, second);
    expect(index).toEqual(database);
    expect(second.size).toBe(300);
    const marked = await second.idsOf({
      parts: [{ type: 'choice', fact: 'judged', values: ['spam'], not: false, keepUnknown: false }],
    });
    expect(marked).toHaveLength(7);
  });

  it('does not trust a snapshot that is damaged, cut short, or of another state', async () => {
    const store = await freshStore();
    for (let i = 0; i < 50; i++) putDomain(store, { name: `vale${i}.org`, ending: 'org' }, true, 5000);
    const host = new PoolHost(store);
    host.load();
    await expect.poll(() => host.questions.columns.splitCount).toBe(host.size);
    expect(await host.save(() => true)).toBe(true);
    const path = join(store.folder, 'pool.snapshot');
    const good = readFileSync(path);
    const reasonFor = (bytes: Buffer) => {
      writeFileSync(path, bytes);
      const again = new PoolHost(store);
      const reason = again.load();
      expect(again.size).toBe(50);
      return reason;
    };
    expect(reasonFor(good)).toBeNull();
    const flipped = Buffer.from(good);
    flipped[good.length - 9] ^= 1;
    expect(reasonFor(flipped)).toContain('damaged');
    expect(reasonFor(good.subarray(0, good.length - 40))).toContain('damaged');
    expect(reasonFor(good.subarray(0, 3))).toContain('damaged');
    statement(store.raw, 'UPDATE pool_stamp SET stamp = stamp + 1').run();
    expect(reasonFor(good)).toContain('another state');
  });

  it('gives up a snapshot when something changes while it is written', async () => {
    const store = await freshStore();
    const { id } = putDomain(store, { name: 'vale.org', ending: 'org' }, true, 5000);
    const host = new PoolHost(store);
    host.load();
    await expect.poll(() => host.questions.columns.splitCount).toBe(host.size);
    const writing = host.save(() => true);
    host.refresh([id], null);
    expect(await writing).toBe(false);
    expect(existsSync(join(store.folder, 'pool.snapshot'))).toBe(false);
  });
});
