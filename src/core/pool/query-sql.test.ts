import Database from 'better-sqlite3';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PHASES } from '../lifecycle/phase';
import { numberForms } from '../names/number-forms';
import { wordsAt } from '../names/word-split';
import { eachPart, type SievePart, withPart } from './conditions';
import { type ChoiceFact, type FactName, JUDGEMENTS, type NumberFact, type PoolRow, type TimeFact } from './facts';
import { OFFER_FACTS } from './offer';

import { ask, group, indexOf, LAST_VISIT, NOW, row, splitter, WORDS } from './testing';

describe('the index against SQL', () => {
  const column = (fact: FactName) => `"${fact}"`;
  const value = fc.option(fc.integer({ min: -3, max: 12 }), { nil: null });
  const time = fc.option(
    fc.integer({ min: -9, max: 9 }).map((day) => NOW + day * 86_400),
    { nil: null },
  );
  const rows = fc
    .array(
      fc.record({
        label: fc.oneof(
          fc.string({ unit: fc.constantFrom('b', 'e', 'h', '-', '7'), minLength: 1, maxLength: 5 }),
          fc.array(fc.constantFrom(...WORDS), { minLength: 1, maxLength: 3 }).map((words) => words.join('')),
        ),
        ending: fc.constantFrom('org', 'com', 'co.uk'),
        phase: fc.constantFrom(...PHASES),
        judged: fc.constantFrom(...JUDGEMENTS.filter((word) => word !== 'excluded')),
        listing: fc.option(fc.constantFrom('auction', 'buy-now'), { nil: null }),
        strength: value,
        spamRisk: value,
        closing: time,
        age: time,
        named: time,
      }),
      { maxLength: 75 },
    )
    .map((list) =>
      list.map((part, i) =>
        row(i + 1, { ...part, name: `${part.label}${i}.${part.ending}`, length: part.label.length }),
      ),
    );
  const condition: fc.Arbitrary<SievePart> = fc.oneof(
    fc.record({
      type: fc.constant('range' as const),
      fact: fc.constantFrom<NumberFact | TimeFact>(
        'strength',
        'spamRisk',
        'length',
        'words',
        'closing',
        'age',
        'named',
      ),
      min: value,
      max: value,
      keepUnknown: fc.boolean(),
      off: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('choice' as const),
      fact: fc.constantFrom<ChoiceFact>('phase', 'ending', 'listing', 'judged'),
      values: fc.array(fc.constantFrom('org', 'com', 'free', 'active', 'auction', 'none', 'keep'), { maxLength: 3 }),
      not: fc.boolean(),
      keepUnknown: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('text' as const),
      fact: fc.constant('name' as const),
      mode: fc.constantFrom(
        'contains' as const,
        'starts' as const,
        'ends' as const,
        'is' as const,
        'word' as const,
        'wordish' as const,
      ),
      values: fc.array(fc.constantFrom('b', 'ee', '-', 'h1', '7', 'bee', 'hive', 'club'), {
        minLength: 1,
        maxLength: 6,
      }),
      not: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('text' as const),
      fact: fc.constant('name' as const),
      mode: fc.constant('pattern' as const),
      values: fc.array(fc.constantFrom('^b', 'e{2}', '[0-4]$', '(?:bee|hive)s?'), { minLength: 1, maxLength: 2 }),
      not: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('visit' as const),
      fact: fc.constantFrom<TimeFact>('named', 'closing'),
      not: fc.boolean(),
    }),
  );
  const parts = fc.array(
    fc.oneof(
      { weight: 3, arbitrary: condition },
      {
        weight: 2,
        arbitrary: fc.record({
          type: fc.constant('group' as const),
          mode: fc.constantFrom('all' as const, 'any' as const, 'none' as const),
          off: fc.boolean(),
          parts: fc.array(
            fc.oneof(
              { weight: 4, arbitrary: condition },
              {
                weight: 1,
                arbitrary: fc.record({
                  type: fc.constant('group' as const),
                  mode: fc.constantFrom('all' as const, 'any' as const, 'none' as const),
                  parts: fc.array(condition, { maxLength: 2 }),
                }),
              },
            ),
            { maxLength: 3 },
          ),
        }),
      },
    ),
    { maxLength: 4 },
  );
  const sorts = fc.array(
    fc.record({
      fact: fc.constantFrom<FactName>(
        'strength',
        'name',
        'phase',
        'ending',
        'closing',
        'age',
        'length',
        'listing',
        'words',
      ),
      descending: fc.boolean(),
    }),
    { minLength: 1, maxLength: 3 },
  );

  /** Of a name that nobody offers, nothing of an offer is unknown. */
  const isAsked = (fact: FactName) =>
    (OFFER_FACTS as readonly string[]).includes(fact) ? '(listing IS NOT NULL)' : '1';

  /** An expression that is 1 or 0, never NULL. */
  function where(part: SievePart): { sql: string; values: unknown[] } {
    if (part.off) return { sql: '1', values: [] };
    if (part.type === 'group') {
      const inner = part.parts.filter((one) => !one.off).map(where);
      if (inner.length === 0) return { sql: '1', values: [] };
      const joined = inner.map(({ sql }) => sql).join(part.mode === 'all' ? ' AND ' : ' OR ');
      return { sql: `${part.mode === 'none' ? 'NOT ' : ''}(${joined})`, values: inner.flatMap(({ values }) => values) };
    }
    const name = column(part.fact);
    if (part.type === 'range') {
      const year = 365.2425 * 86_400;
      const { fact } = part;
      const isBack = fact === 'age' || fact === 'named';
      const bound = (asked: number) =>
        fact === 'age'
          ? NOW - Math.round(asked * year)
          : fact === 'named'
            ? NOW - asked * 86_400
            : fact === 'closing'
              ? NOW + asked * 3600
              : asked;
      const [low, high] = isBack ? [part.max, part.min] : [part.min, part.max];
      const tests: string[] = ['1'];
      if (low !== null) tests.push(`${name} >= ${bound(low)}`);
      if (high !== null) tests.push(`${name} <= ${bound(high)}`);
      return {
        sql: `(CASE WHEN ${name} IS NULL THEN ${part.keepUnknown ? isAsked(fact) : 0} ELSE ${tests.join(' AND ')} END)`,
        values: [],
      };
    }
    if (part.type === 'visit')
      return { sql: `${part.not ? 'NOT ' : ''}(COALESCE(${name}, 0) > ${LAST_VISIT})`, values: [] };
    const no = part.type !== 'member' && part.not ? 'NOT' : '';
    if (part.type === 'choice')
      return {
        sql: `(CASE WHEN ${name} IS NULL THEN ${part.keepUnknown ? isAsked(part.fact) : 0}
          ELSE ${no} (${name} IN (${part.values.map(() => '?').join(',')})) END)`,
        values: part.values,
      };
    if (part.type !== 'text') throw new Error('not asked here');
    const label = `substr(name, 1, length(name) - length(ending) - 1)`;
    const test = {
      contains: `instr(${label}, ?) > 0`,
      starts: `substr(${label}, 1, length(?1)) = ?1`.replaceAll('?1', '?'),
      ends: `(length(${label}) >= length(?) AND substr(${label}, -length(?)) = ?)`,
      is: `${label} = ?`,
      word: `instr(split, ' ' || ? || ' ') > 0`,
      wordish: `instr(split, ' ' || ? || ' ') > 0`,
      pattern: `matches(?, ${label})`,
    }[part.mode];
    const values = part.mode === 'wordish' || part.mode === 'ends' ? part.values.flatMap(numberForms) : part.values;
    const repeats = test.split('?').length - 1;
    return {
      sql: `${no} (${values.map(() => test).join(' OR ')})`,
      values: values.flatMap((needle) => Array(repeats).fill(needle)),
    };
  }

  function table(list: PoolRow[]) {
    const db = new Database(':memory:');
    db.function('matches', (pattern, label) => (new RegExp(String(pattern)).test(String(label)) ? 1 : 0));
    const facts = ['phase', 'judged', 'listing', 'length', 'strength', 'spamRisk', 'closing', 'age', 'named'] as const;
    db.exec(`CREATE TABLE pool (id, name, ending, split, words, ${facts.join(', ')})`);
    const insert = db.prepare(`INSERT INTO pool VALUES (${Array(14).fill('?').join(',')})`);
    const mask = new Uint32Array(2);
    for (const r of list) {
      const label = r.name.slice(0, -r.ending.length - 1);
      splitter.starts(Buffer.from(label), 0, label.length, mask, 0);
      const { words } = wordsAt(label, mask[0], mask[1]);
      insert.run(r.id, r.name, r.ending, ` ${words.join(' ')} `, words.length, ...facts.map((fact) => r[fact]));
    }
    return db;
  }

  it('gives the same rows in the same order, and the same counts, unknown values and groups included', () => {
    fc.assert(
      fc.property(rows, parts, sorts, (list, asked, order) => {
        const db = table(list);
        const idsWhere = (picked: SievePart[], by = 'id') => {
          const { sql, values } = where(group('all', ...picked));
          return db
            .prepare(`SELECT id FROM pool WHERE ${sql} ORDER BY ${by}`)
            .pluck()
            .all(...values) as number[];
        };
        const by = order.map(({ fact, descending }) => {
          const down = fact === 'age' ? !descending : descending;
          const key =
            fact === 'phase'
              ? `(CASE phase ${PHASES.map((word, i) => `WHEN '${word}' THEN ${i}`).join(' ')} END)`
              : column(fact);
          return `${column(fact)} IS NULL, ${key} ${down ? 'DESC' : 'ASC'}`;
        });
        const index = indexOf(list);
        while (index.columns.splitSome(splitter, 10));
        const answer = ask(index, asked, ...order);
        expect(answer.ids).toEqual(idsWhere(asked, [...by, 'id'].join(', ')));
        let before = list.length;
        asked.forEach((_, k) => {
          const entry = answer.parts.find(({ path }) => path === String(k));
          const remaining = idsWhere(asked.slice(0, k + 1)).length;
          expect(entry).toMatchObject({ reaching: before, removes: before - remaining, remaining });
          before = remaining;
        });
        // what every part does alone, however deep: switched off, so many more or fewer pass
        eachPart(asked, (part, path) => {
          const entry = answer.parts.find((one) => one.path === path);
          const without = idsWhere(withPart(asked, path, { ...part, off: true })).length;
          const isCounted = !part.off && !isUnderOff(asked, path);
          expect(entry?.alone).toBe(isCounted ? without - answer.total : 0);
        });
        db.close();
      }),
      { numRuns: 400 },
    );
  });

  function isUnderOff(asked: SievePart[], path: string): boolean {
    let off = false;
    eachPart(asked, (part, at) => {
      if (part.off && path.startsWith(`${at}.`)) off = true;
    });
    return off;
  }
});
