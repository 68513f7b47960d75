import Database from 'better-sqlite3';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PHASES } from '../lifecycle/phase';
import { PoolColumns } from './columns';
import {
  type Condition,
  DEFAULT_SORT,
  formatCondition,
  formatView,
  parseCondition,
  parseView,
  type Sort,
} from './conditions';
import { FACT_NAMES, FACTS, type FactName, type PoolRow } from './facts';
import { PoolIndex } from './query';

const NOW = 1_795_000_000;
const row = (id: number, part: Partial<PoolRow> = {}): PoolRow => ({
  id,
  name: `name${id}.org`,
  ending: 'org',
  phase: 'free',
  listing: null,
  length: 5,
  hyphens: 0,
  digits: 0,
  age: null,
  firstSeen: null,
  backlinks: null,
  referringDomains: null,
  strength: null,
  trust: null,
  spamRisk: null,
  readers: null,
  price: null,
  closing: null,
  ...part,
});
function indexOf(rows: PoolRow[], members: [source: number, id: number][] = []) {
  const columns = new PoolColumns(1);
  for (const entry of rows) columns.put(entry);
  for (const [source, id] of members) columns.addMember(source, id);
  return new PoolIndex(columns);
}
const ask = (index: PoolIndex, conditions: Condition[], sort: Sort = { fact: 'name', descending: false }) =>
  index.query({ conditions, sort, offset: 0, limit: 1000, histograms: [], nowSeconds: NOW });
const range = (fact: FactName, min: number | null, max: number | null, keepUnknown = false): Condition => ({
  type: 'range',
  fact,
  min,
  max,
  keepUnknown,
});

describe('PoolIndex', () => {
  it('says what each condition removes in order and what it alone keeps out', () => {
    const index = indexOf([
      row(1, { strength: 10, length: 5 }),
      row(2, { strength: 30, length: 5 }),
      row(3, { strength: 30, length: 20 }),
      row(4, { strength: 5, length: 20 }),
    ]);
    const answer = ask(index, [range('strength', 20, null), range('length', null, 10)]);
    expect(answer.ids).toEqual([2]);
    expect(answer.perCondition).toEqual([
      { removes: 2, alone: 1, remaining: 2 },
      { removes: 1, alone: 1, remaining: 1 },
    ]);
  });

  it('keeps or drops the unknown by choice', () => {
    const index = indexOf([row(1), row(2, { strength: 3 }), row(3, { strength: 50 })]);
    expect(ask(index, [range('strength', 20, null)]).ids).toEqual([3]);
    expect(ask(index, [range('strength', 20, null, true)]).ids).toEqual([1, 3]);
  });

  it('counts age backwards and closing forwards', () => {
    const year = 365.2425 * 86_400;
    const index = indexOf([
      row(1, { age: NOW - 3 * year, closing: NOW + 7200 }),
      row(2, { age: NOW - 9 * year, closing: NOW + 90_000 }),
      row(3),
    ]);
    expect(ask(index, [range('age', 5, null)]).ids).toEqual([2]);
    expect(ask(index, [range('age', null, 5, true)]).ids).toEqual([1, 3]);
    expect(ask(index, [range('closing', 0, 24)]).ids).toEqual([1]);
    expect(ask(index, [], { fact: 'age', descending: true }).ids).toEqual([2, 1, 3]);
    expect(ask(index, [], { fact: 'closing', descending: false }).ids).toEqual([1, 2, 3]);
  });

  it('matches letters inside the label only', () => {
    const index = indexOf([
      row(1, { name: 'beeorg.com', ending: 'com' }),
      row(2, { name: 'mirrowbee.org' }),
      row(3, { name: 'thebees.co.uk', ending: 'co.uk' }),
    ]);
    const text = (mode: 'contains' | 'starts' | 'ends' | 'is', ...values: string[]): Condition => ({
      type: 'text',
      fact: 'name',
      mode,
      values,
      not: false,
    });
    expect(ask(index, [text('contains', 'org')]).ids).toEqual([1]);
    expect(ask(index, [text('contains', 'eorg')]).ids).toEqual([1]);
    expect(ask(index, [text('contains', 'gthe')]).ids).toEqual([]);
    expect(ask(index, [text('starts', 'bee', 'the')]).ids).toEqual([1, 3]);
    expect(ask(index, [text('ends', 'BEE')]).ids).toEqual([2]);
    expect(ask(index, [text('is', 'thebees')]).ids).toEqual([3]);
    expect(ask(index, [{ ...text('contains', 'bee'), not: true } as Condition]).total).toBe(0);
  });

  it('knows which sources named a domain', () => {
    const index = indexOf(
      [row(1), row(2), row(3)],
      [
        [7, 1],
        [8, 1],
        [8, 3],
        [8, 99],
      ],
    );
    expect(ask(index, [{ type: 'member', fact: 'source', values: [8], not: false }]).ids).toEqual([1, 3]);
    expect(ask(index, [{ type: 'member', fact: 'source', values: [7, 8], not: true }]).ids).toEqual([2]);
    expect(ask(index, [{ type: 'member', fact: 'source', values: [5], not: false }]).ids).toEqual([]);
  });

  it('sees a change at once and keeps its row', () => {
    const index = indexOf([row(1, { strength: 1 }), row(2, { strength: 2 })]);
    expect(ask(index, [], { fact: 'strength', descending: true }).ids).toEqual([2, 1]);
    index.columns.put(row(1, { strength: 3 }));
    expect(ask(index, [], { fact: 'strength', descending: true }).ids).toEqual([1, 2]);
    expect(index.columns.count).toBe(2);
  });

  it('draws a histogram of what the other conditions let through', () => {
    const rows = Array.from({ length: 100 }, (_, i) => row(i + 1, { strength: i, length: i < 50 ? 5 : 20 }));
    const answer = indexOf(rows).query({
      conditions: [range('strength', 90, null), range('length', null, 10)],
      sort: DEFAULT_SORT,
      offset: 0,
      limit: 10,
      histograms: [0],
      nowSeconds: NOW,
    });
    expect(answer.histograms[0].counts.reduce((a, b) => a + b)).toBe(50);
    expect(answer.histograms[0].edges[0]).toBe(0);
    expect(answer.histograms[0].edges.at(-1)).toBe(49);
  });

  it('gives windows that add up to the whole, whichever is asked first', () => {
    const rows = Array.from({ length: 3000 }, (_, i) => row(i + 1, { strength: (i * 7919) % 97 }));
    const whole = indexOf(rows);
    const all = whole.query({
      conditions: [],
      sort: DEFAULT_SORT,
      offset: 0,
      limit: 3000,
      histograms: [],
      nowSeconds: NOW,
    }).ids;
    const parts = indexOf(rows);
    const window = (offset: number) =>
      parts.query({ conditions: [], sort: DEFAULT_SORT, offset, limit: 100, histograms: [], nowSeconds: NOW }).ids;
    expect(window(0)).toEqual(all.slice(0, 100));
    expect(window(2900)).toEqual(all.slice(2900));
    expect(window(100)).toEqual(all.slice(100, 200));
  });
});

describe('the index against SQL', () => {
  const SQL_COLUMNS: Partial<Record<FactName, string>> = { age: 'registered' };
  const column = (fact: FactName) => `"${SQL_COLUMNS[fact] ?? fact}"`;
  const value = fc.option(fc.integer({ min: -3, max: 12 }), { nil: null });
  const time = fc.option(
    fc.integer({ min: -9, max: 9 }).map((day) => NOW + day * 86_400),
    { nil: null },
  );
  const rows = fc
    .array(
      fc.record({
        label: fc.string({ unit: fc.constantFrom('b', 'e', 'h', '-', '7'), minLength: 1, maxLength: 5 }),
        ending: fc.constantFrom('org', 'com', 'co.uk'),
        phase: fc.constantFrom(...PHASES),
        listing: fc.option(fc.constantFrom('auction', 'buy-now'), { nil: null }),
        strength: value,
        spamRisk: value,
        closing: time,
        age: time,
      }),
      { maxLength: 30 },
    )
    .map((list) =>
      list.map((part, i) =>
        row(i + 1, { ...part, name: `${part.label}${i}.${part.ending}`, length: part.label.length }),
      ),
    );
  const conditions = fc.array(
    fc.oneof(
      fc.record({
        type: fc.constant('range' as const),
        fact: fc.constantFrom<FactName>('strength', 'spamRisk', 'length', 'closing', 'age'),
        min: value,
        max: value,
        keepUnknown: fc.boolean(),
      }),
      fc.record({
        type: fc.constant('choice' as const),
        fact: fc.constantFrom<FactName>('phase', 'ending', 'listing'),
        values: fc.array(fc.constantFrom('org', 'com', 'free', 'active', 'auction', 'none'), { maxLength: 3 }),
        not: fc.boolean(),
      }),
      fc.record({
        type: fc.constant('text' as const),
        fact: fc.constant('name' as const),
        mode: fc.constantFrom('contains' as const, 'starts' as const, 'ends' as const, 'is' as const),
        values: fc.array(fc.constantFrom('b', 'ee', '-', 'h1', '7'), { minLength: 1, maxLength: 2 }),
        not: fc.boolean(),
      }),
    ),
    { maxLength: 4 },
  );
  const sorts = fc.record({
    fact: fc.constantFrom<FactName>('strength', 'name', 'phase', 'ending', 'closing', 'age', 'length', 'listing'),
    descending: fc.boolean(),
  });

  function where(condition: Condition): { sql: string; values: unknown[] } {
    const name = column(condition.fact);
    if (condition.type === 'range') {
      const year = 365.2425 * 86_400;
      const bound = (asked: number) =>
        condition.fact === 'age'
          ? NOW - Math.round(asked * year)
          : condition.fact === 'closing'
            ? NOW + asked * 3600
            : asked;
      let [low, high] = [condition.min, condition.max];
      if (condition.fact === 'age') [low, high] = [high, low];
      const tests: string[] = [];
      if (low !== null) tests.push(`${name} >= ${bound(low)}`);
      if (high !== null) tests.push(`${name} <= ${bound(high)}`);
      const known = tests.length > 0 ? tests.join(' AND ') : '1';
      return { sql: `(CASE WHEN ${name} IS NULL THEN ${condition.keepUnknown ? 1 : 0} ELSE ${known} END)`, values: [] };
    }
    const no = condition.type !== 'member' && condition.not ? 'NOT' : '';
    if (condition.type === 'choice')
      return {
        sql: `${no} (COALESCE(${name}, '') IN (${condition.values.map(() => '?').join(',')}))`,
        values: condition.values,
      };
    if (condition.type === 'text') {
      const label = `substr(name, 1, length(name) - length(ending) - 1)`;
      const test = {
        contains: `instr(${label}, ?) > 0`,
        starts: `substr(${label}, 1, length(?1)) = ?1`.replaceAll('?1', '?'),
        ends: `(length(${label}) >= length(?) AND substr(${label}, -length(?)) = ?)`,
        is: `${label} = ?`,
      }[condition.mode];
      const repeats = test.split('?').length - 1;
      return {
        sql: `${no} (${condition.values.map(() => test).join(' OR ')})`,
        values: condition.values.flatMap((needle) => Array(repeats).fill(needle)),
      };
    }
    throw new Error('not asked here');
  }

  it('gives the same rows in the same order, and the same counts, unknown values included', () => {
    fc.assert(
      fc.property(rows, conditions, sorts, (list, asked, sort) => {
        const db = new Database(':memory:');
        db.exec(
          'CREATE TABLE pool (id, name, ending, phase, listing, length, strength, spamRisk, closing, registered)',
        );
        const insert = db.prepare('INSERT INTO pool VALUES (?,?,?,?,?,?,?,?,?,?)');
        for (const r of list)
          insert.run(r.id, r.name, r.ending, r.phase, r.listing, r.length, r.strength, r.spamRisk, r.closing, r.age);
        const tests = asked.map(where);
        const idsWhere = (picked: typeof tests, order = 'id') =>
          db
            .prepare(
              `SELECT id FROM pool WHERE ${['1', ...picked.map((test) => test.sql)].join(' AND ')} ORDER BY ${order}`,
            )
            .pluck()
            .all(...picked.flatMap((test) => test.values)) as number[];
        const down = sort.fact === 'age' ? !sort.descending : sort.descending;
        const order = `${column(sort.fact)} IS NULL, ${column(sort.fact)} ${down ? 'DESC' : 'ASC'}, id`;
        const answer = ask(indexOf(list), asked, sort);
        expect(answer.ids).toEqual(idsWhere(tests, order));
        let before = list.length;
        tests.forEach((_, k) => {
          const remaining = idsWhere(tests.slice(0, k + 1)).length;
          expect(answer.perCondition[k].removes).toBe(before - remaining);
          const others = tests.filter((__, i) => i !== k);
          expect(answer.perCondition[k].alone).toBe(idsWhere(others).length - answer.total);
          before = remaining;
        });
        db.close();
      }),
      { numRuns: 300 },
    );
  });
});

describe('an index that is asked again and again', () => {
  const bounds = fc.option(fc.integer({ min: 0, max: 9 }), { nil: null });
  const condition = fc.oneof(
    fc
      .record({
        fact: fc.constantFrom<FactName>('strength', 'spamRisk', 'age', 'closing'),
        min: bounds,
        max: bounds,
        keepUnknown: fc.boolean(),
      })
      .map(({ fact, min, max, keepUnknown }) => range(fact, min, max, keepUnknown)),
    fc.record({
      type: fc.constant('text' as const),
      fact: fc.constant('name' as const),
      mode: fc.constantFrom('contains' as const, 'starts' as const, 'ends' as const),
      values: fc.array(fc.constantFrom('a', 'b', 'ab', 'ba', '1', '2'), { minLength: 1, maxLength: 6 }),
      not: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('choice' as const),
      fact: fc.constant<FactName>('phase'),
      values: fc.constantFrom(['free'], ['active'], []),
      not: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('member' as const),
      fact: fc.constant('source' as const),
      values: fc.constantFrom([1], [2], [1, 2]),
      not: fc.boolean(),
    }),
  );
  const step = fc.oneof(
    fc.record({ ask: fc.array(condition, { maxLength: 3 }), at: fc.constantFrom(NOW, NOW + 60, NOW + 4000) }),
    fc.record({
      put: fc.record({
        label: fc.string({ unit: fc.constantFrom('a', 'b'), minLength: 1, maxLength: 4 }),
        strength: bounds,
        phase: fc.constantFrom('free', 'active'),
        source: fc.constantFrom(1, 2),
      }),
    }),
  );

  it('answers like one that is asked for the first time, whatever was asked and added before', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 25 }), (steps) => {
        const used = indexOf([]);
        const rows: PoolRow[] = [];
        const members: [number, number][] = [];
        for (const entry of steps) {
          if ('put' in entry) {
            const id = rows.length + 1;
            const { label, strength, phase, source } = entry.put;
            rows.push(
              row(id, {
                name: `${label}${id}.org`,
                strength,
                phase,
                spamRisk: id % 10,
                age: NOW - id * 4e7,
                closing: NOW + id * 900,
              }),
            );
            members.push([source, id]);
            used.columns.put(rows[rows.length - 1]);
            used.columns.addMember(source, id);
          } else {
            const query = {
              conditions: entry.ask as Condition[],
              sort: DEFAULT_SORT,
              offset: 0,
              limit: 50,
              histograms: [],
              nowSeconds: entry.at,
            };
            const { version: _, ...answer } = used.query(query);
            const { version: __, ...fresh } = indexOf(rows, members).query(query);
            expect(answer).toEqual(fresh);
          }
        }
      }),
      { numRuns: 400 },
    );
  });
});

describe('a view in an address', () => {
  it('comes back as it was written', () => {
    const number = fc.option(
      fc.double({ noNaN: true, noDefaultInfinity: true }).map((n) => (n === 0 ? 0 : n)),
      { nil: null },
    );
    const word = fc.string({ minLength: 1, maxLength: 8 }).filter((text) => !/\p{Surrogate}/u.test(text));
    const condition = fc.oneof(
      fc.record({
        type: fc.constant('range' as const),
        fact: fc.constantFrom(...FACT_NAMES.filter((fact) => ['number', 'time'].includes(FACTS[fact].kind))),
        min: number,
        max: number,
        keepUnknown: fc.boolean(),
      }),
      fc.record({
        type: fc.constant('choice' as const),
        fact: fc.constant<FactName>('ending'),
        values: fc.array(word),
        not: fc.boolean(),
      }),
      fc.record({
        type: fc.constant('text' as const),
        fact: fc.constant('name' as const),
        mode: fc.constantFrom('contains' as const, 'is' as const),
        values: fc.array(word),
        not: fc.boolean(),
      }),
      fc.record({
        type: fc.constant('member' as const),
        fact: fc.constant('source' as const),
        values: fc.array(fc.integer({ min: 1, max: 1e9 })),
        not: fc.boolean(),
      }),
    );
    const sort = fc.record({
      fact: fc.constantFrom(...FACT_NAMES.filter((fact) => fact !== 'source')),
      descending: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(condition, { maxLength: 6 }), sort, (conditions, order) => {
        const view = { conditions, sort: order };
        const address = formatView(view).toString();
        expect(parseView(new URLSearchParams(address))).toEqual({ ...view, problems: [] });
      }),
    );
  });

  it.each([
    ['nonsense', 'names no fact'],
    ['strength:much', 'is no range'],
    ['strength:1.2.3..', 'no number'],
    ['phase:gone', 'there is no "gone"'],
    ['name:like=x', 'say contains'],
    ['source:x', 'by its number'],
    ['name:is=%E0%A4%A', 'broken escape'],
  ])('says what is wrong with %j', (text, message) => {
    expect(parseCondition(text)).toContain(message);
  });

  it('leaves out what makes no sense and goes on', () => {
    const view = parseView(new URLSearchParams('c=phase:free&c=bogus:1&sort=taste:up'));
    expect(view.conditions.map(formatCondition)).toEqual(['phase:free']);
    expect(view.sort).toEqual(DEFAULT_SORT);
    expect(view.problems).toHaveLength(2);
  });
});
