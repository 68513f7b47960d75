// `npm run soak -- container`: the Dockerfile's instructions one by one, without a container engine. Over this machine's own Debian, with its
// Node in the place of the image, lies a folder that takes every write and is gone afterwards; what was built there must answer as nobody in
// particular, keep its data to itself, and stop when it is told.
import { spawn, spawnSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { build, install, ROOT } from './prepare.mjs';

const READY_MS = 120_000;
const STOP_MS = 20_000;
const INSIDE = 'JAM_LADLE_CONTAINER';

/** @returns whether every instruction could be taken and what came of them runs. */
export async function soakContainer() {
  const folder = process.env[INSIDE];
  if (folder !== undefined) return runInside(folder);
  if (process.getuid?.() !== 0) throw new Error('Mounts take root: sudo npm run soak -- container');
  install();
  build();
  const fresh = mkdtempSync(join(tmpdir(), 'jam-ladle-container-'));
  try {
    run('npm', ['pack', '--ignore-scripts', '--pack-destination', fresh], { cwd: ROOT });
    const env = { ...process.env, [INSIDE]: fresh };
    // mounts end with the process that has made them
    const { status } = spawnSync(
      'unshare',
      ['--mount', process.execPath, join(ROOT, 'scripts/soak.mjs'), 'container'],
      { stdio: 'inherit', env },
    );
    return status === 0;
  } finally {
    rmSync(fresh, { recursive: true, force: true });
  }
}

async function runInside(folder) {
  const root = layOver(folder);
  const file = readFileSync(join(ROOT, 'deploy/Dockerfile'), 'utf8').replace(/\\\n\s*/g, ' ');
  const lines = file.split('\n').filter((line) => line !== '' && !line.startsWith('#'));
  let user = 'root';
  let entry = null;
  for (const line of lines) {
    const [, word, rest] = /^(\w+) (.*)$/.exec(line);
    console.log(`\n== ${line}`);
    if (word === 'FROM') sameNode(rest);
    else if (word === 'RUN') run('chroot', [root, '/bin/sh', '-ec', rest]);
    else if (word === 'COPY') copy(folder, root, rest);
    else if (word === 'USER') user = rest;
    else if (word === 'ENTRYPOINT') entry = JSON.parse(rest);
    else if (word !== 'VOLUME' && word !== 'EXPOSE') throw new Error(`${word} is no instruction that is known here`);
  }
  await start(root, user, entry);
  console.log('\nEvery instruction was taken, and what it built runs.');
  return true;
}

/** The root of the file system as it would be in a container: this machine's, and above it what is written. */
function layOver(folder) {
  const over = join(folder, 'over');
  mkdirSync(over);
  run('mount', ['-t', 'tmpfs', 'tmpfs', over]);
  for (const part of ['upper', 'work', 'root']) mkdirSync(join(over, part));
  const root = join(over, 'root');
  run('mount', [
    '-t',
    'overlay',
    'overlay',
    '-o',
    `lowerdir=/,upperdir=${join(over, 'upper')},workdir=${join(over, 'work')}`,
    root,
  ]);
  for (const part of ['proc', 'dev', 'sys']) run('mount', ['--rbind', `/${part}`, join(root, part)]);
  return root;
}

function sameNode(image) {
  const wanted = /^node:(\d+)-/.exec(image)?.[1];
  const here = process.versions.node.split('.')[0];
  if (wanted !== here) throw new Error(`the image is of Node ${wanted}, and this one is ${here}`);
}

function copy(folder, root, rest) {
  const [pattern, to] = rest.split(' ');
  const [before, after] = pattern.split('*');
  const found = readdirSync(folder).filter((name) => name.startsWith(before) && name.endsWith(after));
  if (found.length !== 1) throw new Error(`${pattern} names ${found.length} files`);
  copyFileSync(join(folder, found[0]), join(root, to, basename(found[0])));
}

/** Starts what was built as its user, asks for its health, and ends it. */
async function start(root, user, [command, ...args]) {
  const port = args[args.indexOf('--port') + 1];
  const child = spawn('chroot', [`--userspec=${user}`, root, command, ...args], {
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { PATH: process.env.PATH, HOME: '/data' },
  });
  const ended = new Promise((done) => child.once('exit', (code) => done(code)));
  try {
    const until = Date.now() + READY_MS;
    let health = null;
    while (health === null && Date.now() < until && child.exitCode === null) {
      await sleep(250);
      health = await fetch(`http://127.0.0.1:${port}/api/v1/health`).then(
        (answer) => answer.json(),
        () => null,
      );
    }
    if (health === null) throw new Error(`nobody answers at port ${port}`);
    const { uid, mode } = statSync(join(root, 'data'));
    if (uid === 0) throw new Error('its data belong to root');
    if ((mode & 0o077) !== 0) throw new Error('its data folder can be read by others');
    const owner = /^Uid:\s+(\d+)/m.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1];
    if (owner === undefined || owner === '0') throw new Error('it runs as root');
    console.log(`it answers as user ${owner}`);
    child.kill('SIGTERM');
    const code = await Promise.race([ended, sleep(STOP_MS, 'late', { ref: false })]);
    if (code === 'late') throw new Error(`it did not stop within ${STOP_MS / 1000} s`);
  } finally {
    if (child.exitCode === null) child.kill('SIGKILL');
  }
}

function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', ...options });
  if (error) throw error;
  if (status !== 0) throw new Error(`${command} ${args.join(' ')} failed`);
}
