import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { edgesDrawn, readParts } from '../scripts/architecture.mjs';

const guide = (name: string) => readFileSync(name, 'utf8');
/** Paths of the project that a document names in backticks; those with a star or a placeholder name kinds of files. */
const pathsIn = (text: string) =>
  [...text.matchAll(/`((?:src|scripts|bench|e2e|standins|docs|tables)\/[\w./[\]-]+)`/g)].map(([, path]) => path);

describe('the door for newcomers', () => {
  it('has a picture that shows what imports what (`npm run architecture` draws it anew)', () => {
    const { edges } = readParts();
    expect(edgesDrawn(guide('docs/architecture.svg'))).toEqual([...edges.keys()].sort());
  });

  it.each(['docs/architecture.md', 'docs/glossary.md', 'CONTRIBUTING.md'])('%s names only what there is', (name) => {
    const paths = pathsIn(guide(name));
    expect(paths.length).toBeGreaterThan(5);
    expect(paths.filter((path) => !existsSync(path))).toEqual([]);
  });

  it('has import rules that see the sources: without a reader of TypeScript (@swc/core) they pass on nothing', () => {
    const args = ['src/contracts', '--output-type', 'json'];
    const { stdout } = spawnSync('node_modules/.bin/depcruise', args, { encoding: 'utf8', maxBuffer: 1 << 26 });
    const { summary } = JSON.parse(stdout);
    expect(summary.totalCruised).toBeGreaterThan(20);
    expect(summary.error).toBe(0);
  });

  it('has every decision in the index, and no other', () => {
    const listed = [...guide('docs/decisions/README.md').matchAll(/\]\((\d{4}-[\w-]+\.md)\)/g)].map(([, file]) => file);
    const there = readdirSync('docs/decisions').filter((file) => /^\d{4}-/.test(file));
    expect(listed.toSorted()).toEqual(there.toSorted());
  });
});
