import { type ChildProcess, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { get } from 'node:http';
import { type AddressInfo, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { apacheConfig, nginxConfig } from '../src/core/redirects/export';
import type { RedirectRule } from '../src/core/redirects/rules';

/** Exported rules in the servers of Debian's packages as they are, asked for every address. */
const DOMAIN = 'ossenmerebeeclub.org';
const OWN = 'https://beesofthevale.org';
const RULES: RedirectRule[] = [
  { from: '/', to: `${OWN}/` },
  { from: '/swarms.html', to: `${OWN}/guide/swarms` },
  { from: '/p?id=7', to: `${OWN}/hives/plans?from=club` },
  { from: '/p?id=8', to: null },
  { from: '/caf%C3%A9', to: `${OWN}/caf%C3%A9` },
  { from: '/with%20space', to: `${OWN}/a%20b` },
  { from: '/price$1', to: `${OWN}/price-$1` },
  { from: '/gone', to: null },
  { from: '/Twice', to: `${OWN}/capital` },
  { from: '/twice', to: `${OWN}/small` },
  ...Array.from({ length: 2000 }, (_, n) => ({
    from: `/archive/${n}/notes-of-a-meeting.php`,
    to: `${OWN}/notes/${n}`,
  })),
];
const ELSEWHERE = ['/never-was', '/swarms.html?x=1', '/p', '/p?id=9', '/Swarms.html', '/TWICE'];

const started: ChildProcess[] = [];
afterAll(() => {
  for (const child of started) child.kill('SIGTERM');
});

function freePort(): Promise<number> {
  return new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => done(port));
    });
  });
}

const ask = (port: number, path: string) =>
  new Promise<{ status: number; location: string | null }>((done, fail) => {
    get({ host: '127.0.0.1', port, path, headers: { host: DOMAIN }, agent: false }, (response) => {
      response.resume();
      done({ status: response.statusCode ?? 0, location: response.headers.location ?? null });
    }).on('error', fail);
  });

async function ready(port: number): Promise<void> {
  for (let attempt = 0; attempt < 100; attempt++) {
    if (await ask(port, '/').catch(() => null)) return;
    await new Promise((rest) => setTimeout(rest, 50));
  }
  throw new Error('the server did not start');
}

async function startNginx(): Promise<number> {
  const folder = mkdtempSync(join(tmpdir(), 'nginx-'));
  const port = await freePort();
  const site = nginxConfig(RULES, DOMAIN, `127.0.0.1:${port}`);
  const temp = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map(
    (name) => `${name}_temp_path ${folder}/${name};`,
  );
  writeFileSync(
    join(folder, 'nginx.conf'),
    `daemon off;\nmaster_process off;\npid ${folder}/pid;\nerror_log ${folder}/error.log;\nevents {}\nhttp {\naccess_log off;\n${temp.join('\n')}\n${site}}\n`,
  );
  started.push(
    spawn('/usr/sbin/nginx', ['-c', join(folder, 'nginx.conf'), '-e', join(folder, 'error.log')], { stdio: 'ignore' }),
  );
  await ready(port);
  return port;
}

async function startApache(): Promise<number> {
  const folder = mkdtempSync(join(tmpdir(), 'apache-'));
  const port = await freePort();
  mkdirSync(join(folder, 'htdocs'));
  const { map, queries, host } = apacheConfig(RULES, DOMAIN, join(folder, 'moved.txt'));
  writeFileSync(join(folder, 'moved.txt'), map);
  writeFileSync(join(folder, 'moved.txt.queries'), queries);
  const modules = ['mpm_event', 'authz_core', 'rewrite'].map(
    (name) => `LoadModule ${name}_module /usr/lib/apache2/modules/mod_${name}.so`,
  );
  writeFileSync(
    join(folder, 'apache.conf'),
    `ServerRoot ${folder}\n${modules.join('\n')}\nListen 127.0.0.1:${port}\nPidFile ${folder}/pid\nErrorLog ${folder}/error.log\nServerName ${DOMAIN}\n<VirtualHost 127.0.0.1:${port}>\nDocumentRoot ${folder}/htdocs\n${host}</VirtualHost>\n`,
  );
  started.push(spawn('/usr/sbin/apache2', ['-X', '-f', join(folder, 'apache.conf')], { stdio: 'ignore' }));
  await ready(port);
  return port;
}

describe.each([
  ['nginx', startNginx],
  ['Apache', startApache],
])('%s with the rules', (_, start) => {
  let port: number;
  beforeAll(async () => {
    port = await start();
  });

  it('moves every address that a rule moves, in one step, and nothing else', async () => {
    for (const { from, to } of RULES) {
      const { status, location } = await ask(port, from);
      expect([from, status, location]).toEqual([from, to === null ? 410 : 301, to]);
    }
    for (const path of ELSEWHERE) expect([path, (await ask(port, path)).status]).toEqual([path, 410]);
  });
});
