import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { chmodSync, chownSync, mkdirSync, mkdtempSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { type AddressInfo, connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DnsExchange } from '../src/net/dns-exchange';

/** Servers of Debian's packages as they are, on loopback, for tests. */
export function freePort(): Promise<number> {
  return new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => done(port));
    });
  });
}

/**
 * Starts Debian's name server.
 *
 * @param limit answers a second to one network; 0: all. @param more zones beside the first, by their origins.
 */
export async function startNsd(
  zone: string,
  origin: string,
  { limit = 0, port = 0, more = {} }: { limit?: number; port?: number; more?: Record<string, string> } = {},
): Promise<{ server: ChildProcess; address: string }> {
  const folder = mkdtempSync(join(tmpdir(), 'nsd-'));
  const at = port || (await freePort());
  const zones = Object.entries({ [origin]: zone, ...more });
  for (const [name, text] of zones) writeFileSync(join(folder, `zone.${name}`), text);
  const blocks = zones.map(([name]) => `zone:\n  name: "${name}"\n  zonefile: "zone.${name}"\n`).join('');
  writeFileSync(
    join(folder, 'nsd.conf'),
    `server:\n  ip-address: 127.0.0.1@${at}\n  username: ""\n  chroot: ""\n  zonesdir: "${folder}"\n  pidfile: "${folder}/nsd.pid"\n` +
      `  rrl-ratelimit: ${limit}\n  rrl-whitelist-ratelimit: ${limit}\n  logfile: "${folder}/nsd.log"\n  xfrdfile: "${folder}/xfrd.state"\n  zonelistfile: "${folder}/zone.list"\n  database: ""\n` +
      `  xfrdir: "${folder}"\n  server-count: 1\nremote-control:\n  control-enable: no\n${blocks}`,
  );
  const server = spawn('/usr/sbin/nsd', ['-d', '-c', join(folder, 'nsd.conf')], { stdio: 'ignore' });
  const address = `127.0.0.1:${at}`;
  const exchange = new DnsExchange(200);
  for (let i = 0; i < 100; i++) {
    if (await exchange.ask(address, origin, 'SOA', false).catch(() => null)) break;
    await new Promise((done) => setTimeout(done, 50));
  }
  exchange.close();
  return { server, address };
}

/** Whether something takes connections on a port of loopback. */
function accepts(port: number): Promise<boolean> {
  return new Promise((done) => {
    const socket = connect(port, '127.0.0.1', () => {
      socket.destroy();
      done(true);
    });
    socket.once('error', () => done(false));
  });
}

/**
 * Starts Debian's nginx with one server block.
 *
 * @param block what stands in its `server { }`, without `listen`, unless it is whole.
 */
export async function startNginx(
  block: string,
  port: number,
  { isWhole = false }: { isWhole?: boolean } = {},
): Promise<ChildProcess> {
  const folder = mkdtempSync(join(tmpdir(), 'nginx-'));
  mkdirSync(join(folder, 'logs'));
  writeFileSync(
    join(folder, 'nginx.conf'),
    `daemon off; pid ${folder}/pid; error_log ${folder}/error.log; worker_processes 1;
events { worker_connections 512; }
http { access_log off; client_body_temp_path ${folder}/a; proxy_temp_path ${folder}/b; fastcgi_temp_path ${folder}/c;
uwsgi_temp_path ${folder}/d; scgi_temp_path ${folder}/e;
server { ${isWhole ? '' : `listen 127.0.0.1:${port};`}
${block}
} }\n`,
  );
  const server = spawn('/usr/sbin/nginx', ['-p', folder, '-c', join(folder, 'nginx.conf')], { stdio: 'ignore' });
  for (let attempt = 0; attempt < 100; attempt++) {
    if (await accepts(port)) return server;
    await new Promise((rest) => setTimeout(rest, 50));
  }
  throw new Error('nginx did not start');
}

/** A certificate of its own for a name and 127.0.0.1, as a small network has one. @returns paths of it and its key. */
export function certificate(name: string): { cert: string; key: string } {
  const folder = mkdtempSync(join(tmpdir(), 'certificate-'));
  const [cert, key] = ['cert.pem', 'key.pem'].map((file) => join(folder, file));
  const of = ['-subj', `/CN=${name}`, '-addext', `subjectAltName=DNS:${name},IP:127.0.0.1`];
  const asked = ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', ...of, '-keyout', key, '-out', cert];
  execFileSync('openssl', asked, { stdio: 'ignore' });
  return { cert, key };
}

/** A mail account at a stock IMAP server, on loopback. */
export interface MailServer {
  server: ChildProcess;
  /** Of TLS from the first byte, and of what begins in the clear. */
  securePort: number;
  port: number;
  /** Puts a mail, as it stands on the line, into a folder that there is. */
  deliver(folder: string, mail: Buffer): void;
}

/** Starts Debian's Dovecot with one account and some folders beside INBOX. */
export async function startDovecot(
  { login, password, folders, cert, key }: { login: string; password: string; folders: string[]; cert: string; key: string }, // biome-ignore format: one line
): Promise<MailServer> {
  const folder = mkdtempSync(join(tmpdir(), 'dovecot-'));
  // mails belong to nobody in particular: the server refuses to be root for them
  const [uid, gid] = process.getuid?.() === 0 ? [8, 8] : [process.getuid?.() ?? 0, process.getgid?.() ?? 0];
  const maildir = join(folder, 'mail', login);
  const placeOf = (name: string) => (name === 'INBOX' ? maildir : join(maildir, `.${name}`));
  const own = (path: string) => chownSync(path, uid, gid);
  chmodSync(folder, 0o755);
  mkdirSync(join(folder, 'mail'));
  for (const name of ['INBOX', ...folders]) {
    for (const part of ['', 'new', 'cur', 'tmp']) {
      mkdirSync(join(placeOf(name), part), { recursive: true });
      own(join(placeOf(name), part));
    }
  }
  own(join(folder, 'mail'));
  writeFileSync(join(folder, 'users'), `${login}:{PLAIN}${password}::::::\n`, { mode: 0o644 });
  const { server, port, securePort } = await onFreePorts(
    folder,
    (port, securePort) => `base_dir = ${folder}/run
state_dir = ${folder}/state
log_path = ${folder}/log
protocols = imap
listen = 127.0.0.1
first_valid_uid = ${uid}
first_valid_gid = ${gid}
mail_location = maildir:${folder}/mail/%u
ssl = yes
ssl_cert = <${cert}
ssl_key = <${key}
service imap-login {
  inet_listener imap {
    port = ${port}
  }
  inet_listener imaps {
    port = ${securePort}
    ssl = yes
  }
}
auth_failure_delay = 0
service anvil {
  unix_listener anvil-auth-penalty {
    mode = 0
  }
}
passdb {
  driver = passwd-file
  args = ${folder}/users
}
userdb {
  driver = static
  args = uid=${uid} gid=${gid} home=${folder}/mail/%u
}
`,
  );
  let mails = 0;
  const deliver = (name: string, mail: Buffer) => {
    const file = `${Math.floor(Date.now() / 1000)}.M${++mails}P${process.pid}.here`;
    const written = join(placeOf(name), 'tmp', file);
    writeFileSync(written, mail);
    own(written);
    renameSync(written, join(placeOf(name), 'new', file));
  };
  return { server, port, securePort, deliver };
}

/** Starts it on ports that were free a moment ago: whoever was quicker has them, and it is tried on others. */
async function onFreePorts(folder: string, settingsFor: (port: number, securePort: number) => string) {
  const path = join(folder, 'dovecot.conf');
  for (let tries = 0; tries < 5; tries++) {
    const [port, securePort] = [await freePort(), await freePort()];
    writeFileSync(path, settingsFor(port, securePort));
    const server = spawn('/usr/sbin/dovecot', ['-F', '-c', path], { stdio: 'ignore' });
    for (let attempt = 0; attempt < 400 && server.exitCode === null; attempt++) {
      if (await accepts(port)) return { server, port, securePort };
      await new Promise((rest) => setTimeout(rest, 50));
    }
    server.kill('SIGKILL');
  }
  throw new Error(`Dovecot does not start:\n${readFileSync(join(folder, 'log'), 'utf8').slice(-2000)}`);
}
