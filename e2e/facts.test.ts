import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DomainViewSchema } from '../src/contracts/pool';
import { FACT_TITLES } from '../src/core/evidence/fact-words';
import { LIST_FIGURES, packFigures } from '../src/core/formats/list-figures';
import { columnOf, FACT_NAMES, FACTS, factSpec, SHOWN_NUMBERS, STORED_NUMBERS } from '../src/core/pool/facts';
import { figure, figureOrigin } from '../src/core/wording/figures';
import { domainView } from '../src/services/pool/views';
import { type Store, write } from '../src/store/base/database';
import { freshStore } from '../src/store/base/testing';
import { findDomain, putDomain, putSighting } from '../src/store/domains/domains';
import { eachPoolRow, readPoolRow } from '../src/store/domains/pool-rows.sql';
import { putStatement } from '../src/store/sources/list-figures';
import { addSource } from '../src/store/sources/sources';
import { COLUMNS } from '../src/ui/pool/columns';

/** What is said of a fact in the table of facts holds everywhere that takes it from there. */
const RATES = { home: 'EUR', worth: {} };
const RULES = { rates: RATES, countRule: 'together', scoreNames: [] } as const;
const NAME = 'fellgatewax.org';
let store: Store;
let id = 0;
beforeAll(async () => {
  store = await freshStore();
  id = write(store, () => putDomain(store, { name: NAME, ending: 'org' }, true, 1)).id;
  store.raw.prepare('INSERT INTO inspections (domain_id) VALUES (?)').run(id);
});
afterAll(() => store.close());

describe('a fact', () => {
  it('that is stored has its column in the database', () => {
    const columnsIn = (table: string) => store.raw.pragma(`table_info(${table})`) as { name: string }[];
    const known = new Set([
      ...columnsIn('domains').map(({ name }) => name),
      ...columnsIn('inspections').map(({ name }) => `i.${name}`),
    ]);
    const stored = FACT_NAMES.flatMap((fact) => factSpec(fact).column ?? []);
    expect(stored.length).toBeGreaterThan(40);
    expect(stored.filter((column) => !known.has(column))).toEqual([]);
  });

  it.each(LIST_FIGURES)('%s comes from lists into the index and the view, with who stated it', (fact) => {
    const n = LIST_FIGURES.indexOf(fact);
    const source = addSource(store, 'list', `export ${n}`, { stated: [fact] });
    const values = LIST_FIGURES.map((_, at) => (at === n ? 7 : Number.NaN));
    write(store, () => {
      putSighting(store, id, source, 5, null, {});
      putStatement(store, id, source, packFigures({ values, currency: null }) ?? '', 5);
    });
    const shown = fact === 'listCpc' ? 0.07 : 7;
    expect(readPoolRow(store, id, RATES)?.[fact]).toBe(shown);
    expect([...eachPoolRow(store, RATES)][0][fact]).toBe(shown);
    const row = findDomain(store, NAME);
    if (!row) throw new Error('the domain is gone');
    const view = DomainViewSchema.parse(JSON.parse(JSON.stringify(domainView(row, false, RULES))));
    expect([view[fact], view.stated?.[fact]]).toEqual([shown, { source: `export ${n}`, at: 5, name: null }]);
    expect(figureOrigin(fact, view, 65_000)).toContain(`export ${n}, read `);
  });

  it.each(STORED_NUMBERS)('%s comes from its column into the index, the view and the history', (fact) => {
    const { column = '' } = factSpec(fact);
    const table = column.startsWith('i.') ? 'inspections' : 'domains';
    const key = table === 'inspections' ? 'domain_id' : 'id';
    store.raw.prepare(`UPDATE ${table} SET ${columnOf(fact)} = 7 WHERE ${key} = ?`).run(id);
    expect(readPoolRow(store, id, RATES)?.[fact]).toBe(7);
    const row = findDomain(store, NAME);
    if (!row) throw new Error('the domain is gone');
    const view = domainView(row, false, RULES);
    expect(view[fact]).toBe(7);
    expect(DomainViewSchema.parse(JSON.parse(JSON.stringify(view)))[fact]).toBe(7);
    expect(FACT_TITLES[columnOf(fact)]).toBe(FACTS[fact].label);
    expect(figure(fact, 7)).toContain('7');
    expect(figure(fact, null)).toBe('');
  });

  it('that is a figure is sorted by in one column of the pool, which says where it comes from', () => {
    const row = findDomain(store, NAME);
    if (!row) throw new Error('the domain is gone');
    const view = domainView(row, false, RULES);
    const sorting = SHOWN_NUMBERS.map((fact) => [
      fact,
      COLUMNS.filter(({ sorts }) => sorts.some((sort) => sort.fact === fact)).length,
    ]);
    expect(sorting.filter(([, columns]) => columns !== 1)).toEqual([]);
    for (const { id: column, sorts, origin } of COLUMNS)
      if (sorts.some(({ fact }) => (SHOWN_NUMBERS as string[]).includes(fact)))
        expect(origin(view, Date.now()), column).not.toBe('');
  });
});
