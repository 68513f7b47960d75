import { expect, it } from 'vitest';
import { TABLES } from './schema';
import { freshStore } from './testing';

interface Found {
  name: string;
  type: string;
  notnull: 0 | 1;
  dflt_value: string | null;
  pk: number;
}

it('the tables are declared as the migrations leave them', async () => {
  const { raw } = await freshStore();
  const names = raw
    .prepare(
      `SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name NOT LIKE 'knex_%'`,
    )
    .pluck()
    .all() as string[];
  expect(names.length).toBeGreaterThan(80);
  const real = names.map((table) => {
    const found = raw.prepare('SELECT * FROM pragma_table_info(?)').all(table) as Found[];
    const keys = found.filter(({ pk }) => pk > 0);
    const numbersItself = (name: string) => keys.length === 1 && keys[0].name === name && name === 'id';
    return [
      table,
      found.map(({ name, type, notnull, pk, dflt_value }) => [
        name,
        type,
        notnull === 0 && pk === 0,
        dflt_value !== null || numbersItself(name),
      ]),
    ];
  });
  const declared = Object.entries(TABLES).map(([table, columns]) => [
    table,
    Object.entries(columns).map(([name, { declared, isNullable, fillsItself }]) => [
      name,
      declared,
      isNullable,
      fillsItself,
    ]),
  ]);
  expect(Object.fromEntries(declared)).toEqual(Object.fromEntries(real));
});
