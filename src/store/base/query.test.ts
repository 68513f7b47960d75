import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { waitingPages } from '../crawl/crawl';
import { readDomains } from '../domains/domains';
import { isAnyDue, letTimePass, openListings } from '../offers/listings';
import { dueOrders } from '../orders/order-rows';
import { freshIn } from '../pool/sieves';
import { type Store, write } from './database';
import {
  all,
  camel,
  columns,
  constant,
  copyRows,
  each,
  exists,
  first,
  fromJson,
  knex,
  known,
  orNull,
  pick,
  prepared,
  run,
  sql,
  the,
} from './query';
import { freshStore } from './testing';

const NOTES = columns('notes', 'n');
const DOMAINS = columns('domains', 'd');
let store: Store;
beforeEach(async () => {
  store = await freshStore();
  const row = { ending: 'org', length: 1, hyphens: 0, digits: 0, added_at: 1 };
  for (const name of ['a.org', 'b.org']) run(store, knex('domains').insert({ ...row, name }));
  for (const text of ['first', 'second']) run(store, knex('notes').insert({ domain_id: 1, at: 5, text }));
});

describe('a query', () => {
  it('gives its rows by name, under the names of the code', () => {
    const rows = all(store, pick(knex('notes as n'), camel(NOTES, 'id', 'domain_id', 'removed_at')).orderBy('n.id'));
    expect(rows).toEqual([
      { id: 1, domainId: 1, removedAt: null },
      { id: 2, domainId: 1, removedAt: null },
    ]);
  });

  it('has null where a table has no row beside the others', () => {
    const noted = pick(knex('domains as d').leftJoin('notes as n', 'n.domain_id', 'd.id'), {
      name: DOMAINS.name,
      text: orNull(NOTES.text),
      at: known(DOMAINS.added_at as never),
    }).orderBy(['d.id', 'n.id']);
    expect(all(store, noted).map(({ name, text }) => [name, text])).toEqual([
      ['a.org', 'first'],
      ['a.org', 'second'],
      ['b.org', null],
    ]);
  });

  it('gives bare values where one column is plucked', () => {
    expect(all(store, knex('notes').orderBy('id').pluck('text'))).toEqual(['first', 'second']);
    expect(first(store, knex('notes').where('id', 2).pluck('text'))).toBe('second');
    // the same text as rows is another reading of it
    expect(all(store, knex('notes').select('text').where('id', 2))).toEqual([{ text: 'second' }]);
    expect(first(store, knex('notes').select('text').where('id', 2))).toEqual({ text: 'second' });
  });

  it('tells nothing from a null, and one that must be there from one that is not', () => {
    expect(first(store, knex('notes').where('id', 1).pluck('removed_at'))).toBeNull();
    expect(first(store, knex('notes').where('id', 9).pluck('removed_at'))).toBeUndefined();
    expect(the(store, knex('notes').where('id', 1).pluck('removed_at'))).toBeNull();
    expect(() => the(store, knex('notes').where('id', 9).pluck('text'))).toThrow('has no row');
    expect([exists(store, knex('notes').where('id', 1)), exists(store, knex('notes').where('id', 9))]).toEqual([
      true,
      false,
    ]);
  });

  it('is walked a part at a time, also twice at once, and written to meanwhile', () => {
    write(store, () => {
      for (let n = 0; n < 4500; n++) run(store, knex('notes').insert({ domain_id: 2, at: n, text: `${n}` }));
    });
    const notes = () =>
      each<{ at: number }>((last, limit) =>
        all(
          store,
          knex('notes')
            .select('at')
            .where({ domain_id: 2 })
            .whereNot('text', 'first')
            .whereNot('text', 'second')
            .where('at', '>', last?.at ?? -1)
            .orderBy('at')
            .limit(limit),
        ),
      );
    const found: number[] = [];
    for (const { at } of notes()) {
      found.push(at);
      if (at % 1000 !== 0) continue;
      expect(notes().next().value).toEqual({ at: 0 });
      run(store, knex('notes').where({ domain_id: 2, at }).update({ text: 'seen' }));
    }
    expect(found).toEqual(Array.from({ length: 4500 }, (_, n) => n));
  });

  it('takes what is written as a value, never as SQL', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        run(store, knex('notes').where('id', 1).update({ text }));
        expect(first(store, knex('notes').where({ id: 1, text }).pluck('text'))).toBe(text);
      }),
    );
  });
});

describe('a prepared query', () => {
  const ADD = prepared((note: { at: number; text: string }) =>
    knex('notes')
      .insert({ domain_id: 2, at: note.at, text: note.text })
      .onConflict('id')
      .merge({ text: sql('excluded.text || ?', [note.text]) }),
  );
  const OF = prepared(({ domain, from }: { domain: number; from: number }) =>
    knex('notes').select('text').where('domain_id', domain).where('at', '>=', from).orderBy('id'),
  );

  it('takes what is given each time, wherever it stands', () => {
    expect(ADD.run(store, { at: 7, text: 'x' }).changes).toBe(1);
    ADD.run(store, { at: 8, text: 'y' });
    expect(OF.all(store, { domain: 2, from: 8 })).toEqual([{ text: 'y' }]);
    expect(OF.all(store, { from: 0, domain: 2 })).toEqual([{ text: 'x' }, { text: 'y' }]);
    expect(OF.first(store, { domain: 1, from: 6 })).toBeUndefined();
  });

  it('serves any store', async () => {
    const other = await freshStore();
    expect(OF.all(other, { domain: 1, from: 0 })).toEqual([]);
    expect(OF.all(store, { domain: 1, from: 0 })).toHaveLength(2);
  });
});

it('rows are copied from table to table, those that stand there stay', () => {
  const copy = () =>
    copyRows(store, 'questions', knex('domains as d'), {
      domain_id: DOMAINS.id,
      step: sql('?', ['dns']),
      server: sql("''"),
      held: sql('0'),
      turn: DOMAINS.length,
      depth: sql('?', ['record']),
      said: sql("'[]'"),
      tries: sql('0'),
      since: DOMAINS.added_at,
    }).changes;
  expect([copy(), copy()]).toEqual([2, 0]);
  expect(the(store, knex('questions').select('step', 'turn').where('domain_id', 2))).toEqual({ step: 'dns', turn: 1 });
});

it('JSON that is not what it should be is said, not passed on', () => {
  const Words = z.array(z.string());
  expect(fromJson(Words, '["a"]')).toEqual(['a']);
  expect(() => fromJson(Words, '[1]')).toThrow(z.ZodError);
  expect(() => fromJson(Words, '[')).toThrow(SyntaxError);
});

describe('an index over some rows only', () => {
  /** How SQLite would find the rows of every query that `act` runs. */
  function plansOf(act: () => void): string {
    const { raw } = store;
    const texts: string[] = [];
    const prepare = raw.prepare.bind(raw);
    raw.prepare = ((text: string) => {
      texts.push(text);
      return prepare(text);
    }) as typeof raw.prepare;
    try {
      act();
    } finally {
      raw.prepare = prepare as typeof raw.prepare;
    }
    return texts
      .flatMap((text) => {
        const places = text.match(/\?/g)?.length ?? 0;
        const plan = prepare(`EXPLAIN QUERY PLAN ${text}`).all(...new Array(places).fill(1)) as { detail: string }[];
        return plan.map(({ detail }) => detail);
      })
      .join('\n');
  }

  it.each<[string, (of: Store) => unknown]>([
    ['pages_queue', (of) => waitingPages(of, 1, 10)],
    ['listings_open', (of) => openListings(of, 1, null, 0, 10)],
    ['listings_next', (of) => letTimePass(of, 1, 10)],
    ['listings_next', (of) => isAnyDue(of, 1)],
    ['sieve_hits_fresh', (of) => freshIn(of, 1)],
    ['orders_next', (of) => dueOrders(of, 1, 10)],
  ])('%s serves what it was made for', (index, ask) => {
    expect(plansOf(() => ask(store))).toContain(index);
  });

  it('serves a constant, which stands in the query', () => {
    const fresh = knex('sieve_hits').where({ sieve_id: 1, fresh: constant(1) });
    expect(fresh.toSQL().bindings).toEqual([1]);
    expect(plansOf(() => all(store, fresh.pluck('domain_id')))).toContain('sieve_hits_fresh');
  });
});

it('a domain is read with what was measured of it, or with nothing', () => {
  run(store, knex('inspections').insert({ domain_id: 1, drift: 0.25 }));
  const [measured, bare] = readDomains(store, [1, 2, 9]);
  expect([measured.name, measured.drift, measured.own]).toEqual(['a.org', 0.25, 0]);
  expect([bare.name, bare.drift, bare.own]).toEqual(['b.org', null, 0]);
});
