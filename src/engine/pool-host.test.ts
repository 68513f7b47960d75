import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NUMBER_FACTS } from '../core/pool/columns';
import { changeSettings, type Store, statement } from '../store/database';
import { eachMembership, eachPoolRow, putDomain, putSighting } from '../store/domains';
import { addSource } from '../store/sources';
import { freshStore } from './jobs/testing';
import { PoolHost } from './pool-host';

/** What the index holds, row by row, and what the database holds. */
function bothSides(store: Store, host: PoolHost) {
  const { columns } = host.questions;
  const fromIndex = Array.from({ length: columns.count }, (_, row) => ({
    id: columns.ids[row],
    name: columns.nameOf(row),
    phase: columns.dictionaries.phase.words[columns.choices.phase[row]],
    age: columns.times.age[row] || null,
    numbers: NUMBER_FACTS.map((fact) => (Number.isNaN(columns.numbers[fact][row]) ? null : columns.numbers[fact][row])),
    sources: [...columns.members]
      .filter(([, bits]) => (bits[row >> 3] & (1 << (row & 7))) !== 0)
      .map(([source]) => source),
  })).sort((a, b) => a.id - b.id);
  const memberships = [...eachMembership(store)];
  const fromDatabase = [...eachPoolRow(store, { home: 'EUR', worth: {} })].map((row) => ({
    id: row.id,
    name: row.name,
    phase: row.phase,
    age: row.age,
    numbers: NUMBER_FACTS.map((fact) => (row[fact] === null ? null : Math.fround(row[fact] as number))),
    sources: memberships.filter(([, domain]) => domain === row.id).map(([source]) => source),
  }));
  const order = (rows: typeof fromIndex) => rows.map((row) => ({ ...row, sources: [...row.sources].sort() }));
  return { index: order(fromIndex), database: order(fromDatabase) };
}

describe('PoolHost', () => {
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
    await new Promise((resolve) => setTimeout(resolve, 20));
    const { index, database } = bothSides(store, host);
    expect(index).toEqual(database);
    expect(index.map(({ name, sources }) => [name, sources])).toEqual([['back.org', [other]]]);
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
});
