import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';

const SOURCES = readdirSync('src', { recursive: true, encoding: 'utf8' })
  .filter((path) => /\.tsx?$/.test(path) && !/\.test\.tsx?$/.test(path))
  .map((path) => ({ path: join('src', path), text: readFileSync(join('src', path), 'utf8') }));
const isSql = (path: string) => path.endsWith('.sql.ts');
const inBase = (path: string) => path.startsWith('src/store/base/') || path.startsWith('src/store/migrations/');

it('hand-written SQL stands in files that say so', () => {
  const others = SOURCES.filter(({ path }) => !isSql(path) && !inBase(path));
  expect(others.length).toBeGreaterThan(500);
  const written = others.filter(({ text }) => /raw\.(?:prepare|exec)\(|base\/statement'|\breadSql\b/.test(text));
  expect(written.map(({ path }) => path)).toEqual([]);
});

it('and say why', () => {
  const files = SOURCES.filter(({ path }) => isSql(path));
  expect(files.length).toBeGreaterThan(3);
  for (const { path, text } of files) expect(text.slice(0, 400), path).toMatch(/^\/\*\*[^/]*Hand-written SQL[^/]*\d/s);
});

it('rows are not cast where queries are built', () => {
  const rooms = SOURCES.filter(({ path }) => path.startsWith('src/store/') && !isSql(path) && !inBase(path));
  expect(rooms.length).toBeGreaterThan(40);
  const bare = (text: string) => text.replace(/\/\*[\s\S]*?\*\/|\/\/.*|'[^'\n]*'|`[^`]*`|"[^"\n]*"/g, '');
  const isCast = (text: string) =>
    /JSON\.parse\(|\brows?\s+as\s+|as (?:never|unknown)\b/.test(text) ||
    // what `Object.keys` gives is no row
    /\)\s+as\s+(?!const)/.test(text.replace(/Object\.keys\([^()]*\) as/g, ''));
  const cast = rooms.flatMap(({ path, text }) => (isCast(bare(text)) ? [path] : []));
  expect(cast).toEqual([]);
});
