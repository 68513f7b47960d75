import { existsSync, readFileSync } from 'node:fs';
import { builtinModules } from 'node:module';
import { dirname, join, normalize } from 'node:path';
import { describe, expect, it } from 'vitest';

const PACKAGE = JSON.parse(readFileSync('package.json', 'utf8')) as {
  bin: Record<string, string>;
  files: string[];
  dependencies: Record<string, string>;
  engines: { node: string };
};
const UNIT = readFileSync('deploy/jam-ladle.service', 'utf8');
const DOCKERFILE = readFileSync('deploy/Dockerfile', 'utf8').replace(/\\\n\s*/g, ' ');

/** Scripts that the command needs, by what each imports. */
function needed(entry: string): { scripts: Set<string>; packages: Set<string> } {
  const scripts = new Set<string>();
  const packages = new Set<string>();
  const visit = (path: string) => {
    // what was bundled has its packages in it; what only the demo needs does not go along
    if (scripts.has(path) || path.startsWith('dist/') || path === 'scripts/first-steps.mjs') return;
    scripts.add(path);
    const text = readFileSync(path, 'utf8');
    for (const [, whole, later] of text.matchAll(/^import\s(?:[^'"]*from )?'([^']+)'|import\('([^']+)'\)/gm)) {
      const from = whole ?? later;
      if (from.startsWith('.')) visit(normalize(join(dirname(path), from)));
      else if (!from.startsWith('node:') && !builtinModules.includes(from)) packages.add(from);
    }
    for (const [, beside] of text.matchAll(/'\.\/(scripts\/[\w-]+\.mjs)'/g)) visit(beside);
  };
  visit(entry);
  return { scripts, packages };
}

describe('the package', () => {
  it('has a command, with every script that it needs and no package that is not installed with it', () => {
    const entry = PACKAGE.bin['jam-ladle'];
    expect(readFileSync(entry, 'utf8')).toMatch(/^#!\/usr\/bin\/env node\n/);
    const { scripts, packages } = needed(entry);
    for (const script of scripts) expect(PACKAGE.files, script).toContain(script);
    for (const name of packages) expect(Object.keys(PACKAGE.dependencies), name).toContain(name);
    for (const file of PACKAGE.files.filter((one) => !/^!|\*/.test(one) && !/^(dist|\.next)/.test(one)))
      expect(existsSync(file), file).toBe(true);
  });

  it('is started by systemd as nobody in particular, in a folder of its own', () => {
    const values = Object.fromEntries([...UNIT.matchAll(/^(\w+)=(.*)$/gm)].map(([, key, value]) => [key, value]));
    expect(values.ExecStart).toMatch(/^\/usr\/bin\/jam-ladle --data \/var\/lib\/jam-ladle --port \d+$/);
    expect(values).toMatchObject({ DynamicUser: 'yes', StateDirectory: 'jam-ladle', ProtectSystem: 'strict' });
  });

  it('is put into a container by instructions that there are, on the Node that it needs, and does not run as root', () => {
    const lines = DOCKERFILE.split('\n').filter((line) => line !== '' && !line.startsWith('#'));
    const known = /^(FROM|RUN|COPY|USER|VOLUME|EXPOSE|ENTRYPOINT) /;
    for (const line of lines) expect(line).toMatch(known);
    expect(lines[0]).toMatch(/^FROM node:20-/);
    expect(PACKAGE.engines.node).toContain('>=20');
    const at = (what: RegExp) => lines.findIndex((line) => what.test(line));
    expect(at(/^USER jam-ladle/)).toBeGreaterThan(at(/^RUN useradd/));
    expect(JSON.parse(lines[at(/^ENTRYPOINT/)].replace('ENTRYPOINT ', ''))).toEqual([
      'jam-ladle',
      '--data',
      '/data',
      '--port',
      '4310',
    ]);
    expect(lines.some((line) => line === 'VOLUME /data')).toBe(true);
  });
});
