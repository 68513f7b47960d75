// `npm run soak -- tests`: the browser tests ten times (soak-tests.mjs). `npm run soak -- start`: the demo from nothing ten times (soak-start.mjs). `npm run soak -- kills`: long work that is killed (e2e/kills). `npm run soak -- day`: a day of use in an hour (e2e/day.ts). `npm run soak`: what else takes longer than `npm test` may, or needs packages of its own.
// Reading real input: a large HTML manual that nobody here wrote (Debian's PostgreSQL documentation), served on loopback by a
// stock web server (Python's), crawled to the end, and compared with what an independent program finds in the same files.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { build, ensureTools, install, ROOT } from './prepare.mjs';
import { soakContainer } from './soak-container.mjs';
import { soakStart } from './soak-start.mjs';
import { soakTests } from './soak-tests.mjs';

const MANUALS = [
  { pkg: 'postgresql-doc-15', folder: '/usr/share/doc/postgresql-doc-15/html', start: 'index.html' },
  { pkg: 'python3.11-doc', folder: '/usr/share/doc/python3.11/html', start: 'contents.html' },
  { pkg: 'git-doc', folder: '/usr/share/doc/git-doc', start: 'git.html' },
  // frames
  { pkg: 'ant-doc', folder: '/usr/share/doc/ant/manual', start: 'index.html' },
  // a robots.txt with wildcards
  {
    pkg: 'sqlite3-doc',
    folder: '/usr/share/doc/sqlite3',
    start: 'index.html',
    forbidden: ['/c3ref/*_blob*', '/releaselog/3_*.html$', '/*/syntax/'],
  },
  // HTML of twenty years ago
  { pkg: 'ntpsec-doc', folder: '/usr/share/doc/ntpsec-doc/html', start: 'index.html' },
];

function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  if (status !== 0) throw new Error(`${command} ${args.join(' ')} failed`);
}

try {
  if (process.argv[2] === 'tests') process.exit(soakTests() ? 0 : 1);
  if (process.argv[2] === 'start') process.exit((await soakStart()) ? 0 : 1);
  if (process.argv[2] === 'day') {
    install();
    build();
    run(process.execPath, ['--import', 'tsx', 'e2e/day.ts']);
    process.exit(0);
  }
  if (process.argv[2] === 'kills') {
    install();
    build();
    run(process.execPath, ['--import', 'tsx', 'e2e/kills/run.ts']);
    process.exit(0);
  }
  if (process.argv[2] === 'container') process.exit((await soakContainer()) ? 0 : 1);
  install();
  for (const { pkg, folder } of MANUALS) {
    if (existsSync(folder)) continue;
    if (process.getuid?.() !== 0) throw new Error(`Install the manual first: sudo apt-get install ${pkg}`);
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    run('apt-get', ['update', '-q'], { env });
    run('apt-get', ['install', '-yq', '--no-install-recommends', pkg, 'publicsuffix'], { env });
  }
  for (const { folder, start, forbidden = [] } of MANUALS)
    run(process.execPath, ['--import', 'tsx', 'e2e/real-input.ts', folder, start, ...forbidden]);
  run(process.execPath, ['--import', 'tsx', 'e2e/outside-gate.ts']);
  // every benchmark, made small: they still run
  run(process.execPath, ['scripts/bench.mjs', '--small']);
  // what leaves opens in a spreadsheet that nobody here wrote, with the same values
  ensureTools(['libreoffice-calc']);
  run(process.execPath, ['node_modules/vitest/vitest.mjs', 'run', 'e2e/exports-in-calc.test.ts'], {
    env: { ...process.env, JAM_LADLE_SOAK: '1' },
  });
  // the points of the spam rules are what training makes
  run(process.execPath, ['node_modules/vitest/vitest.mjs', 'run', 'bench/training.test.ts'], {
    env: { ...process.env, JAM_LADLE_SOAK: '1' },
  });
  // a million mutated answers of registries, none of a registered name called free
  run(process.execPath, ['node_modules/vitest/vitest.mjs', 'run', 'src/core/lifecycle/cases.test.ts'], {
    env: { ...process.env, JAM_LADLE_MUTATIONS: '1000000', JAM_LADLE_SEED: String(Date.now() % 2 ** 31) },
  });
  build();
  // 20,000 calls of every route, right ones and odd ones
  run(process.execPath, ['--import', 'tsx', 'e2e/fuzz/calls.ts']);
  // a day of use does not grow
  run(process.execPath, ['--import', 'tsx', 'e2e/day.ts']);
  // a hundred kills over all long work
  run(process.execPath, ['--import', 'tsx', 'e2e/kills/run.ts']);
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
