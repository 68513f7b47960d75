import { describe, expect, it } from 'vitest';
import type { ChoiceCondition, Condition } from './conditions';
import { PoolIndex } from './query';

import { ask, given, group, indexOf, LAST_VISIT, NOW, query, range, row, text } from './testing';

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
