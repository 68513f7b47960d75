import { readFileSync } from 'node:fs';
import Database from 'better-sqlite3';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import wabt from 'wabt';
import { PHASES } from '../lifecycle/phase';
import { numberForms } from '../names/number-forms';
import { splitterOf } from '../names/testing';
import { wordsAt } from '../names/word-split';
import { BETWEEN } from './between';
import { PoolColumns } from './columns';
import {
  type ChoiceCondition,
  type Condition,
  DEFAULT_SORT,
  eachPart,
  formatPart,
  formatView,
  type Group,
  parsePart,
  parseView,
  type SievePart,
  type Sort,
  troubleWith,
  withPart,
} from './conditions';
import {
  bareRow,
  CHOICE_FACTS,
  type ChoiceFact,
  type FactName,
  JUDGEMENTS,
  MEMBER_FACTS,
  NUMBER_FACTS,
  type NumberFact,
  type PoolRow,
  SORT_FACTS,
  TIME_FACTS,
  type TimeFact,
} from './facts';
import { OFFER_FACTS } from './offer';
import { patternProblem } from './pattern-problem';
import { PoolIndex, type PoolQuery } from './query';

const NOW = 1_795_000_000;
const LAST_VISIT = NOW - 86_400;
const WORDS = ['bee', 'beech', 'bees', 'hive', 'archive', 'archivists', 'club', 'the', 'h', 'be', 'eh'];
const splitter = splitterOf(WORDS.map((word, i) => ({ word, count: 1000 - i })));
const LISTS: Record<number, string[]> = { 7: ['be', '7'], 8: Array.from({ length: 3000 }, (_, i) => `w${i}`) };
/** Stands for what words are about. */
const subjectOf = (words: readonly string[]) => (words.includes('bee') || words.includes('bees') ? 'Beekeeping' : null);
const given = {
  nowSeconds: NOW,
  lastVisit: LAST_VISIT,
  splitter,
  valuesOf: (list: number) => LISTS[list] ?? [],
  subjectOf,
};
const row = (id: number, part: Partial<PoolRow> = {}): PoolRow => {
  const name = part.name ?? `name${id}.org`;
  return { ...bareRow(id, name, part.ending ?? 'org'), phase: 'free', length: 5, ...part };
};
function indexOf(rows: PoolRow[], members: [source: number, id: number][] = []) {
  const columns = new PoolColumns(1);
  for (const entry of rows) columns.put(entry);
  for (const [source, id] of members) columns.setMembers('source', source, [id]);
  return new PoolIndex(columns);
}
const query = (index: PoolIndex, asked: Partial<PoolQuery>, at = NOW) =>
  index.query(
    { parts: [], sorts: [{ fact: 'name', descending: false }], offset: 0, limit: 1000, histograms: [], ...asked },
    { ...given, nowSeconds: at },
  );
const ask = (index: PoolIndex, parts: SievePart[], ...sorts: Sort[]) =>
  query(index, { parts, ...(sorts.length > 0 && { sorts }) });
const range = (
  fact: NumberFact | TimeFact,
  min: number | null,
  max: number | null,
  keepUnknown = false,
): Condition => ({
  type: 'range',
  fact,
  min,
  max,
  keepUnknown,
});
const text = (
  mode: 'contains' | 'starts' | 'ends' | 'is' | 'word' | 'wordish' | 'pattern',
  ...values: string[]
): Condition => ({
  type: 'text',
  fact: 'name',
  mode,
  values,
  not: false,
});
const group = (mode: Group['mode'], ...parts: SievePart[]): Group => ({ type: 'group', mode, parts });

describe('PoolIndex', () => {
  it('says what each condition removes in order and what it alone keeps out', () => {
    const index = indexOf([
      row(1, { strength: 10, length: 5 }),
      row(2, { strength: 30, length: 5 }),
      row(3, { strength: 30, length: 20 }),
      row(4, { strength: 5, length: 20 }),
      row(5),
    ]);
    const answer = ask(index, [range('strength', 20, null), range('length', null, 10)]);
    expect(answer.ids).toEqual([2]);
    expect(answer.parts).toEqual([
      { path: '0', reaching: 5, removes: 3, alone: 2, remaining: 2, unknown: 1 },
      { path: '1', reaching: 2, removes: 1, alone: 1, remaining: 1, unknown: null },
    ]);
  });

  it('counts nothing for a condition that is off, and lets everything through it', () => {
    const index = indexOf([row(1, { strength: 10 }), row(2, { strength: 30 })]);
    const off = { ...range('strength', 20, null), off: true };
    const answer = ask(index, [off, range('length', null, 10)]);
    expect(answer.total).toBe(2);
    expect(answer.parts[0]).toEqual({ path: '0', reaching: 2, removes: 0, alone: 0, remaining: 2, unknown: null });
  });

  it('says of a part of an any-group what it adds and what passes by it alone', () => {
    const index = indexOf([
      row(1, { strength: 50, trust: 50 }),
      row(2, { strength: 50, trust: 1 }),
      row(3, { strength: 1, trust: 50 }),
      row(4, { strength: 1, trust: 1 }),
    ]);
    const answer = ask(index, [group('any', range('strength', 20, null), range('trust', 20, null))]);
    expect(answer.total).toBe(3);
    expect(answer.parts.map(({ path, remaining, removes, alone }) => [path, remaining, removes, alone])).toEqual([
      ['0', 3, 1, 1],
      ['0.0', 2, 2, -1],
      ['0.1', 3, 1, -1],
    ]);
  });

  it('understands whole domains as they are pasted where the name itself is asked for', () => {
    const index = indexOf([
      { ...row(1), name: 'bee.org', ending: 'org' },
      { ...row(2), name: 'bee.com', ending: 'com' },
      { ...row(3), name: 'hive.co.uk', ending: 'co.uk' },
    ]);
    expect(ask(index, [text('is', 'bee')]).ids.sort()).toEqual([1, 2]);
    expect(ask(index, [text('is', 'bee.com')]).ids).toEqual([2]);
    expect(ask(index, [text('is', 'https://www.hive.co.uk/honey', 'Bee.org')]).ids.sort()).toEqual([1, 3]);
    expect(ask(index, [text('is', 'wasp.org')]).ids).toEqual([]);
  });

  it('finds a choice whatever the case of its letters', () => {
    const index = indexOf([row(1, { subject: 'Bees and honey' }), row(2, { subject: 'Sheep' })]);
    const subject = (value: string): ChoiceCondition => ({
      type: 'choice',
      fact: 'subject',
      values: [value],
      not: false,
      keepUnknown: false,
    });
    expect(ask(index, [subject('bees AND honey')]).ids).toEqual([1]);
    expect(ask(index, [{ ...subject('sheep'), not: true }]).ids).toEqual([1]);
  });

  it('reads what names are about when it is asked, also of names that came since', async () => {
    const index = indexOf([
      { ...row(1), name: 'beehive.org', ending: 'org' },
      { ...row(2), name: 'stonewall.org', ending: 'org' },
    ]);
    const about: ChoiceCondition = {
      type: 'choice',
      fact: 'nameSubject',
      values: ['beekeeping'],
      not: false,
      keepUnknown: false,
    };
    await index.prepare([about], given);
    const answer = ask(index, [about]);
    expect(answer.ids).toEqual([1]);
    expect(answer.parts[0].unknown).toBe(1);
    index.columns.put({ ...row(3), name: 'beegarden.org', ending: 'org' });
    expect(ask(index, [about]).ids.sort()).toEqual([1, 3]);
  });

  it('keeps or drops the unknown by choice, of choices too', () => {
    const index = indexOf([
      row(1),
      row(2, { strength: 3, listing: 'auction' }),
      row(3, { strength: 50, listing: 'offer' }),
    ]);
    expect(ask(index, [range('strength', 20, null)]).ids).toEqual([3]);
    expect(ask(index, [range('strength', 20, null, true)]).ids).toEqual([1, 3]);
    const listing: ChoiceCondition = {
      type: 'choice',
      fact: 'listing',
      values: ['auction'],
      not: true,
      keepUnknown: false,
    };
    expect(ask(index, [listing]).ids).toEqual([3]);
    // a name that nobody offers is not one of whose offer the kind is unknown
    expect(ask(index, [{ ...listing, keepUnknown: true }]).ids).toEqual([3]);
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

  it('knows what was named since the last visit', () => {
    const index = indexOf([row(1, { named: LAST_VISIT }), row(2, { named: LAST_VISIT + 1 }), row(3)]);
    expect(ask(index, [{ type: 'visit', fact: 'named', not: false }]).ids).toEqual([2]);
    expect(ask(index, [{ type: 'visit', fact: 'named', not: true }]).ids).toEqual([1, 3]);
  });

  it('matches letters inside the label only', () => {
    const index = indexOf([
      row(1, { name: 'beeorg.com', ending: 'com' }),
      row(2, { name: 'mirrowbee.org' }),
      row(3, { name: 'thebees.co.uk', ending: 'co.uk' }),
    ]);
    expect(ask(index, [text('contains', 'org')]).ids).toEqual([1]);
    expect(ask(index, [text('contains', 'eorg')]).ids).toEqual([1]);
    expect(ask(index, [text('contains', 'gthe')]).ids).toEqual([]);
    expect(ask(index, [text('starts', 'bee', 'the')]).ids).toEqual([1, 3]);
    // and its plural
    expect(ask(index, [text('ends', 'BEE')]).ids).toEqual([2, 3]);
    expect(ask(index, [text('is', 'thebees')]).ids).toEqual([3]);
    expect(ask(index, [text('pattern', '^the.*s$')]).ids).toEqual([3]);
    expect(ask(index, [{ ...text('contains', 'bee'), not: true } as Condition]).total).toBe(0);
  });

  it('tells words from letters that stand together by chance, and says how many of these are left', () => {
    const index = indexOf([
      row(1, { name: 'archivists.org' }),
      row(2, { name: 'beehive.org' }),
      row(3, { name: 'bees-club.org' }),
      row(4, { name: 'beech.org' }),
    ]);
    expect(ask(index, [text('word', 'hive')]).ids).toEqual([2]);
    expect(ask(index, [text('word', 'bee')]).ids).toEqual([2]);
    expect(ask(index, [text('wordish', 'bee')]).ids).toEqual([2, 3]);
    const answer = ask(index, [text('contains', 'hiv')]);
    expect(answer.collisions).toEqual({ 0: 2 });
    expect(ask(index, [text('contains', 'bee', 'hive')]).collisions).toEqual({ 0: 1 });
    expect(ask(index, [text('contains', 'bee')]).names[2].matches).toEqual([{ start: 0, end: 3, isWord: true }]);
    const names = ask(index, [text('contains', 'bee')]);
    expect(names.ids).toEqual([4, 2, 3]);
    expect(names.names[0]).toEqual({ starts: [0], matches: [{ start: 0, end: 3, isWord: false }] });
    expect(names.names[1]).toEqual({ starts: [0, 3], matches: [{ start: 0, end: 3, isWord: true }] });
  });

  it('finds any of thousands, kept as a list', () => {
    const index = indexOf([
      row(1, { name: 'w2999.org' }),
      row(2, { name: 'xw17x.org' }),
      row(3, { name: 'other.org' }),
    ]);
    const list = (mode: 'is' | 'contains' | 'starts' | 'ends') => ({ ...text(mode), list: 8 }) as Condition;
    expect(ask(index, [list('is')]).ids).toEqual([1]);
    expect(ask(index, [list('contains')]).ids).toEqual([1, 2]);
    expect(ask(index, [list('starts')]).ids).toEqual([1]);
    expect(ask(index, [list('ends')]).ids).toEqual([1]);
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
    const source = (values: number[], not = false): Condition => ({ type: 'member', fact: 'source', values, not });
    expect(ask(index, [source([8])]).ids).toEqual([1, 3]);
    expect(ask(index, [source([7, 8], true)]).ids).toEqual([2]);
    expect(ask(index, [source([8]), source([7], true)]).ids).toEqual([3]);
    expect(ask(index, [source([5])]).ids).toEqual([]);
  });

  it('leaves out what was excluded until it is asked for', () => {
    const index = indexOf([row(1, { judged: 'excluded' }), row(2, { judged: 'pass' }), row(3)]);
    expect(ask(index, [])).toMatchObject({ ids: [2, 3], total: 2, excluded: 1, size: 3 });
    const judged = (...values: string[]): Condition => ({
      type: 'choice',
      fact: 'judged',
      values,
      not: false,
      keepUnknown: false,
    });
    expect(ask(index, [judged('excluded')]).ids).toEqual([1]);
    expect(ask(index, [judged('not-yet')]).ids).toEqual([3]);
    expect(query(index, { withExcluded: true }).ids).toEqual([1, 2, 3]);
  });

  it('sees a change at once and keeps its row', () => {
    const index = indexOf([row(1, { strength: 1 }), row(2, { strength: 2 })]);
    expect(ask(index, [], { fact: 'strength', descending: true }).ids).toEqual([2, 1]);
    index.columns.put(row(1, { strength: 3 }));
    expect(ask(index, [], { fact: 'strength', descending: true }).ids).toEqual([1, 2]);
    expect(index.columns.count).toBe(2);
  });

  it('draws a histogram of what reaches a condition, on a scale that stays', () => {
    const rows = Array.from({ length: 100 }, (_, i) =>
      row(i + 1, { strength: i, length: i < 50 ? 5 : 20, backlinks: i }),
    );
    const index = indexOf([...rows, row(101)]);
    const bars = (...parts: Condition[]) =>
      query(index, { parts, histograms: [String(parts.length - 1)] }).histograms[0];
    const all = bars(range('strength', 90, null));
    expect(all.counts.reduce((a, b) => a + b)).toBe(100);
    expect(all.unknown).toBe(1);
    const fewer = bars(range('length', null, 10), range('strength', 90, null));
    expect(fewer.edges).toEqual(all.edges);
    expect(fewer.counts.reduce((a, b) => a + b)).toBe(50);
    expect([all.edges[0], all.edges.at(-1)]).toEqual([0, 100]);
    expect(bars(range('trust', 1, null)).edges).toEqual([]);
    const links = bars(range('backlinks', null, null));
    links.counts.forEach((counted, bar) => {
      const last = bar === links.counts.length - 1;
      const inside = rows.filter(
        ({ backlinks: value }) => (value ?? 0) >= links.edges[bar] && ((value ?? 0) < links.edges[bar + 1] || last),
      );
      expect(counted).toBe(inside.length);
    });
  });

  it('gives windows that add up to the whole, whichever is asked first', () => {
    const rows = Array.from({ length: 9000 }, (_, i) =>
      row(i + 1, { name: `n${(i * 7907) % 9000}x.org`, strength: (i * 7919) % 97 }),
    );
    for (const fact of ['strength', 'name'] as const) {
      const sorts = [{ fact, descending: true }];
      const all = query(indexOf(rows), { sorts, limit: 9000 }).ids;
      const parts = indexOf(rows);
      const window = (offset: number) => query(parts, { sorts, offset, limit: 100 }).ids;
      expect(window(0)).toEqual(all.slice(0, 100));
      expect(window(8900)).toEqual(all.slice(8900));
      expect(window(100)).toEqual(all.slice(100, 200));
      expect(query(parts, { sorts, limit: 1, anchor: all[4321] }).anchorAt).toBe(4321);
    }
  });

  it('forgets rows and keeps the others as they were', () => {
    const index = indexOf(
      Array.from({ length: 70 }, (_, i) => row(i + 1, { strength: i, name: `bee${i}.org` })),
      [
        [3, 2],
        [3, 40],
      ],
    );
    ask(index, [text('word', 'bee')]);
    const kept = new PoolIndex(index.columns.without([1, 40]));
    expect(kept.columns.count).toBe(68);
    expect(ask(kept, [{ type: 'member', fact: 'source', values: [3], not: false }]).ids).toEqual([2]);
    expect(ask(kept, [range('strength', 67, null), text('word', 'bee')]).ids).toEqual([68, 69, 70]);
  });

  it('tries a pattern in parts and gives the same', async () => {
    const rows = Array.from({ length: 9001 }, (_, i) => row(i + 1, { name: `${i % 7 === 0 ? 'bee' : 'x'}${i}.org` }));
    const index = indexOf(rows);
    const parts = [text('pattern', '^bee\\d+$')];
    await index.prepare(parts, given);
    expect(ask(index, parts).total).toBe(Math.ceil(9001 / 7));
  });
});

describe('lanes', () => {
  it('are what their source says', async () => {
    const { parseWat } = await wabt();
    const source = readFileSync(new URL('lanes.wat', import.meta.url), 'utf8');
    const { buffer } = parseWat('lanes.wat', source, { simd: true }).toBinary({});
    expect(Buffer.from(buffer).toString('base64')).toBe(BETWEEN);
  });
});

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

describe('an index that is asked again and again', () => {
  const bounds = fc.option(fc.integer({ min: 0, max: 9 }), { nil: null });
  const condition: fc.Arbitrary<SievePart> = fc.oneof(
    fc
      .record({
        fact: fc.constantFrom<NumberFact | TimeFact>('strength', 'spamRisk', 'age', 'closing', 'words'),
        min: bounds,
        max: bounds,
        keepUnknown: fc.boolean(),
      })
      .map(({ fact, min, max, keepUnknown }) => range(fact, min, max, keepUnknown)),
    fc.record({
      type: fc.constant('text' as const),
      fact: fc.constant('name' as const),
      mode: fc.constantFrom(
        'contains' as const,
        'starts' as const,
        'ends' as const,
        'word' as const,
        'pattern' as const,
      ),
      values: fc.array(fc.constantFrom('a', 'b', 'ab', 'ba', '1', '2'), { minLength: 1, maxLength: 6 }),
      not: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('choice' as const),
      fact: fc.constantFrom<ChoiceFact>('phase', 'judged'),
      values: fc.constantFrom<string[]>(['free'], ['active'], [], ['keep'], ['excluded']),
      not: fc.boolean(),
      keepUnknown: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('member' as const),
      fact: fc.constant('source' as const),
      values: fc.constantFrom<number[]>([1], [2], [1, 2]),
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
    fc.record({ judge: fc.nat(24), as: fc.constantFrom(...JUDGEMENTS) }),
  );

  it('answers like one that is asked for the first time, whatever was asked, added and marked before', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        const used = indexOf([]);
        const rows: PoolRow[] = [];
        const members: [number, number][] = [];
        for (const entry of steps) {
          if ('judge' in entry) {
            const marked = rows[entry.judge % Math.max(1, rows.length)];
            if (!marked) continue;
            marked.judged = entry.as;
            used.columns.judge(marked.id, entry.as);
          } else if ('put' in entry) {
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
            used.columns.setMembers('source', source, [id]);
            while (used.columns.splitSome(splitter, 10));
          } else {
            const asked = { parts: entry.ask, sorts: [DEFAULT_SORT], limit: 50, anchor: 3 };
            const { version: _, ...answer } = query(used, asked, entry.at);
            const fresh = indexOf(rows, members);
            while (fresh.columns.splitSome(splitter, 10));
            const { version: __, ...expected } = query(fresh, asked, entry.at);
            expect(answer).toEqual(expected);
          }
        }
      }),
      { numRuns: 400 },
    );
  });
});

describe('a view in an address', () => {
  const number = fc.option(
    fc.double({ noNaN: true, noDefaultInfinity: true }).map((n) => (n === 0 ? 0 : n)),
    { nil: null },
  );
  const word = fc.string({ minLength: 1, maxLength: 8 }).filter((text) => !/\p{Surrogate}/u.test(text));
  const off = fc.constantFrom({}, { off: true });
  const condition: fc.Arbitrary<SievePart> = fc
    .tuple(
      fc.oneof(
        fc.record({
          type: fc.constant('range' as const),
          fact: fc.constantFrom<NumberFact | TimeFact>(...NUMBER_FACTS, ...TIME_FACTS),
          min: number,
          max: number,
          keepUnknown: fc.boolean(),
        }),
        fc.record({
          type: fc.constant('choice' as const),
          fact: fc.constantFrom<ChoiceFact>(
            ...CHOICE_FACTS.filter((fact) => ['ending', 'registrar', 'venue'].includes(fact)),
          ),
          values: fc.array(word),
          not: fc.boolean(),
          keepUnknown: fc.boolean(),
        }),
        fc.record({
          type: fc.constant('text' as const),
          fact: fc.constant('name' as const),
          mode: fc.constantFrom('contains' as const, 'pattern' as const),
          values: fc.array(word.filter((one) => !/^@\d/.test(one))),
          not: fc.boolean(),
        }),
        fc.record({
          type: fc.constant('text' as const),
          fact: fc.constant('name' as const),
          mode: fc.constantFrom('is' as const, 'word' as const),
          values: fc.constant([]),
          list: fc.integer({ min: 1, max: 999 }),
          not: fc.boolean(),
        }),
        fc.record({
          type: fc.constant('member' as const),
          fact: fc.constantFrom(...MEMBER_FACTS),
          values: fc.array(fc.integer({ min: 1, max: 1e9 })),
          not: fc.boolean(),
        }),
        fc.record({ type: fc.constant('visit' as const), fact: fc.constantFrom(...TIME_FACTS), not: fc.boolean() }),
      ),
      off,
    )
    .map(([part, more]) => ({ ...part, ...more }) as SievePart);
  const mode = fc.constantFrom('all' as const, 'any' as const, 'none' as const);
  const groups = (inner: fc.Arbitrary<SievePart>) =>
    fc
      .tuple(mode, fc.array(inner, { maxLength: 3 }), off)
      .map(([how, parts, more]) => ({ type: 'group', mode: how, parts, ...more }) as SievePart);
  const part = fc.oneof(condition, groups(fc.oneof(condition, groups(condition))));

  it('comes back as it was written', () => {
    const sort = fc.record({ fact: fc.constantFrom(...SORT_FACTS), descending: fc.boolean() });
    const columns = fc.option(
      fc.record({
        shown: fc.array(
          fc.record({
            id: fc.constantFrom('domain', 'age'),
            width: fc.option(fc.integer({ min: 30, max: 800 }), { nil: null }),
          }),
          { minLength: 1, maxLength: 4 },
        ),
        pinned: fc.integer({ min: 0, max: 9 }),
      }),
      { nil: null },
    );
    fc.assert(
      fc.property(
        fc.array(part, { maxLength: 4 }),
        fc.array(sort, { minLength: 1, maxLength: 4 }),
        columns,
        (parts, sorts, shown) => {
          const view = { parts, sorts, columns: shown };
          const address = formatView(view).toString();
          expect(parseView(new URLSearchParams(address))).toEqual({ ...view, problems: [] });
        },
      ),
    );
  });

  it('never throws, whatever it is given', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(...'strength:any(.;)~!?,=@%e-19') }), (noise) => {
        parseView(
          new URLSearchParams([
            ['c', noise],
            ['sort', noise],
            ['columns', noise],
          ]),
        );
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
    ['any(strength:1..;taste:2..)', 'names no fact'],
    ['any(any(any(strength:1..)))', 'at most 2 deep'],
  ])('says what is wrong with %j', (text, message) => {
    expect(parsePart(text)).toContain(message);
  });

  it('leaves out what makes no sense and goes on', () => {
    const view = parseView(new URLSearchParams('c=phase:free&c=bogus:1&sort=taste:up'));
    expect(view.parts.map(formatPart)).toEqual(['phase:free']);
    expect(view.sorts).toEqual([DEFAULT_SORT]);
    expect(view.problems).toHaveLength(2);
  });

  it('says what is wrong with a condition that is kept', () => {
    const trouble = (part: SievePart) => troubleWith(part, patternProblem);
    expect(trouble(range('strength', 50, 20))).toContain('above the upper');
    expect(trouble(range('strength', 20, 50))).toBeNull();
    expect(trouble(text('pattern', '(bee'))).toContain('no pattern');
    expect(trouble(text('pattern', 'a'.repeat(100_000)))).toContain('100,000');
    expect(trouble(text('contains', 'a'.repeat(300)))).toContain('longer than any name');
    expect(trouble(text('pattern', '^(bee|hive)'))).toBeNull();
  });
});
