// Installs and builds what is missing or has changed, and nothing else. Uses Node alone, so it runs on a bare checkout.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const CHROMIUM = '/usr/bin/chromium';

function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  if (status !== 0) throw new Error(`${command} ${args.join(' ')} failed${error ? `: ${error.message}` : ''}`);
}

function hashOf(paths) {
  const hash = createHash('sha256').update(process.version);
  const visit = (path) => {
    if (!existsSync(path)) return;
    if (statSync(path).isDirectory()) {
      // tests are no part of what is built
      for (const name of readdirSync(path).sort()) if (!/\.test\.tsx?$/.test(name)) visit(join(path, name));
    } else hash.update(relative(ROOT, path)).update(readFileSync(path));
  };
  for (const path of paths) visit(join(ROOT, path));
  return hash.digest('hex');
}

/** Does `act` unless the stamp says that it was done for these very files. */
function once(stampPath, inputs, isThere, act) {
  const stamp = join(ROOT, stampPath);
  const wanted = hashOf(inputs);
  if (isThere() && existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  rmSync(stamp, { force: true });
  act();
  writeFileSync(stamp, wanted);
}

/** @param output where npm writes what it does. */
export function install(output = 'inherit') {
  const [major] = process.versions.node.split('.').map(Number);
  if (major !== 20) throw new Error(`Jam Ladle runs on Node 20; this is ${process.version}.`);
  once(
    'node_modules/.jam-ladle-installed',
    ['package-lock.json'],
    () => existsSync(join(ROOT, 'node_modules/next')),
    () => {
      console.error('Installing packages (about 3 minutes the first time: the database driver is compiled here)');
      // install, not ci: ci refuses a lock file without the builds for other platforms that a registry may not carry
      run('npm', ['install', '--no-save', '--no-audit', '--no-fund'], { stdio: ['inherit', output, 'inherit'] });
    },
  );
}

export function build() {
  once(
    'dist/.jam-ladle-built',
    [
      'src',
      'standins',
      'scripts/bundle.mjs',
      'package-lock.json',
      'next.config.ts',
      'tsconfig.json',
      'postcss.config.mjs',
    ],
    () => existsSync(join(ROOT, '.next/BUILD_ID')) && existsSync(join(ROOT, 'dist/engine/main.mjs')),
    () => {
      console.log('Building');
      run('node', ['scripts/bundle.mjs']);
      run('node', ['node_modules/next/dist/bin/next', 'build'], {
        env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
      });
      namePackagesPlainly();
    },
  );
}

/**
 * The build names packages that it leaves outside by links of its own, `knex-65717652aa42346a`, which no tarball carries: by their plain
 * names they are found wherever they were installed.
 */
function namePackagesPlainly() {
  const links = join(ROOT, '.next/node_modules');
  if (!existsSync(links)) return;
  const named = readdirSync(links).map((link) => [link, link.replace(/-[0-9a-f]{16}$/, '')]);
  for (const file of readdirSync(join(ROOT, '.next/server'), { recursive: true, withFileTypes: true })) {
    if (!file.isFile() || !file.name.endsWith('.js')) continue;
    const path = join(file.parentPath, file.name);
    const text = readFileSync(path, 'utf8');
    const plain = named.reduce((whole, [link, name]) => whole.replaceAll(link, name), text);
    if (plain !== text) writeFileSync(path, plain);
  }
  rmSync(links, { recursive: true });
}

/** Programs of others that tests run against, by Debian's package. */
const TOOLS = {
  chromium: CHROMIUM,
  'chromium-headless-shell': '/usr/bin/chromium-headless-shell',
  nsd: '/usr/sbin/nsd',
  whois: '/usr/bin/whois',
  'nginx-light': '/usr/sbin/nginx',
  openssl: '/usr/bin/openssl',
  'dovecot-imapd': '/usr/sbin/dovecot',
  'apache2-bin': '/usr/sbin/apache2',
  'libreoffice-calc': '/usr/bin/soffice',
};
/** Those of the tests: their Chromium is the one without a window; a spreadsheet is for the soak alone. */
const FOR_TESTS = Object.keys(TOOLS).filter((name) => name !== 'chromium' && name !== 'libreoffice-calc');
/** While this says no, Debian starts no service that it has installed: the tests start their own. */
const NO_SERVICES = '/usr/sbin/policy-rc.d';

/** Debian's Chromium, and stock servers and clients that tests talk to, installed when we may. */
export function ensureTools(packages = FOR_TESTS) {
  const missing = packages.filter((name) => !existsSync(TOOLS[name]));
  if (missing.length === 0) return;
  if (process.getuid?.() !== 0)
    throw new Error(`The tests need other programs. Install them: sudo apt-get install ${missing.join(' ')}`);
  console.log(`Installing ${missing.join(', ')}`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  run('apt-get', ['update', '-q'], { env });
  const isOurs = !existsSync(NO_SERVICES);
  if (isOurs) writeFileSync(NO_SERVICES, '#!/bin/sh\nexit 101\n', { mode: 0o755 });
  try {
    run('apt-get', ['install', '-yq', '--no-install-recommends', ...missing], { env });
  } finally {
    if (isOurs) rmSync(NO_SERVICES);
  }
}
