import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { PARKING } from '../standins/files';
import { makeWorld } from '../standins/world';

const GUIDE = 'docs/guide';
const pages = readdirSync(GUIDE).map((name) => ({ name, text: readFileSync(join(GUIDE, name), 'utf8') }));

/** All that the screens say, as it is written in the code: whitespace as one, entities as they are shown. */
function spoken(): string {
  const texts: string[] = [];
  const walk = (folder: string) => {
    for (const name of readdirSync(folder)) {
      const path = join(folder, name);
      if (statSync(path).isDirectory()) walk(path);
      else if (/\.tsx?$/.test(name) && !name.includes('.test.')) texts.push(readFileSync(path, 'utf8'));
    }
  };
  for (const folder of ['src/ui', 'src/app', 'src/core']) walk(folder);
  return texts.join('\n').replace(/\s+/g, ' ');
}

describe('the guide', () => {
  it('has a page for each kind of user', () => {
    expect(pages.map(({ name }) => name).sort()).toEqual([
      'README.md',
      'first-find.md',
      'prospector.md',
      'real.md',
      'rebuilder.md',
      'redirector.md',
      'reseller.md',
    ]);
  });

  it('names what is there: every label stands on a screen', () => {
    const says = spoken();
    const missing = pages.flatMap(({ name, text }) =>
      [...text.replace(/```[\s\S]*?```/g, '').matchAll(/(?<![\w`])_([^_\n]+)_(?![\w`])/g)]
        .flatMap(([, label]) => label.split('…').map((part) => part.trim()))
        // what opens a row is called by the row
        .map((part) => part.replace(/^Set up (?=[A-Z])/, ''))
        .filter((part) => part !== '' && !says.includes(part))
        .map((part) => `${name}: ${part}`),
    );
    expect(missing).toEqual([]);
  });

  it('shows pictures and leads to pages that exist', () => {
    for (const { name, text } of pages)
      for (const [, target] of text.matchAll(/\]\(([^)\s]+)\)/g)) {
        if (/^https?:/.test(target)) continue;
        const [path, anchor] = target.split('#');
        const file = path === '' ? join(GUIDE, name) : join(dirname(join(GUIDE, name)), path);
        expect(existsSync(file), `${name}: ${target}`).toBe(true);
        if (anchor) {
          const heads = [...readFileSync(file, 'utf8').matchAll(/^#+ (.+)$/gm)].map(([, head]) =>
            head
              .toLowerCase()
              .replace(/[^\w -]/g, '')
              .replace(/ /g, '-'),
          );
          expect(heads, `${name}: ${target}`).toContain(anchor);
        }
      }
  });

  it('tells of names that are in the world', () => {
    const world = makeWorld(1, Date.UTC(2026, 10, 20, 8), 300);
    const known = (name: string) => world.domains.has(name) || world.sites.has(name) || name === PARKING;
    const named = new Set(
      pages.flatMap(({ text }) =>
        [...text.matchAll(/`([a-z0-9-]+\.(?:org|com|net|co\.uk))(?:\/[^`]*)?`/g)].map(([, name]) => name),
      ),
    );
    expect(named.size).toBeGreaterThan(5);
    expect([...named].filter((name) => !known(name))).toEqual([]);
  });
});
