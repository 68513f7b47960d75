import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { ACCOUNT_KEY, VenueAccounts } from './accounts';
import { ARCHIVE_HOST } from './archive';
import { bindBoth, makeDns } from './dns';
import { writeFiles } from './files';
import { DESCRIBED } from './interfaces';
import { MARK_HOST } from './mark-register';
import { REGISTRAR_HOST } from './registrar';
import { makeWhoisServer, setBeginning, WHOIS_SERVERS } from './registries';
import { SEARCH_HOST } from './search';
import { VENUES } from './venues';
import { makeWeb } from './web';
import { makeWorld } from './world';

/**
 * Starts the made-up outside world for a data folder, and writes the product's configuration that points at it.
 * Environment: JAM_LADLE_DATA the folder, JAM_LADLE_SEED the world's seed (default 1). Prints `world ready` when it is.
 */
interface WorldFile {
  seed: number;
  /** The world's first moment, and when it was first started in real time. */
  worldStart: string;
  realStart: string;
}

/** Every world begins here, so that the same seed gives the same files. */
const WORLD_START = '2026-11-20T08:00:00.000Z';

async function main(): Promise<void> {
  const folder = process.env.JAM_LADLE_DATA;
  if (!folder) throw new Error('JAM_LADLE_DATA names the data folder');
  const worldPath = join(folder, 'world.json');
  const isNew = !existsSync(worldPath);
  const file: WorldFile = isNew
    ? { seed: Number(process.env.JAM_LADLE_SEED ?? 1), worldStart: WORLD_START, realStart: new Date().toISOString() }
    : JSON.parse(readFileSync(worldPath, 'utf8'));
  const began = performance.now();
  const world = makeWorld(file.seed, Date.parse(file.worldStart));
  const files = join(folder, 'world');
  if (isNew) {
    await writeFiles(world, files);
    writeFileSync(worldPath, JSON.stringify(file));
  }
  const clock = new ShiftedClock(folder);
  const now = () => Date.parse(file.worldStart) + (Date.now() - Date.parse(file.realStart)) + clock.shiftMs();
  setBeginning(world.start);

  const accounts = new VenueAccounts(world, join(folder, 'world-orders.jsonl'));
  setInterval(() => accounts.settle(now()), 500);
  const web = makeWeb(world, now, accounts);
  const whois = makeWhoisServer(world, now);
  const { udp, tcp } = makeDns(world, now);
  const host = '127.0.0.1';
  await new Promise<void>((done) => web.listen(0, host, done));
  await new Promise<void>((done) => whois.listen(0, host, done));
  const dnsPort = await bindBoth(udp, tcp, host);
  const webPort = (web.address() as AddressInfo).port;
  const whoisPort = (whois.address() as AddressInfo).port;

  const config = {
    mode: 'demo',
    clock: { worldStart: file.worldStart, realStart: file.realStart },
    connector: `${host}:${webPort}`,
    whois: {
      servers: Object.fromEntries(Object.entries(WHOIS_SERVERS).map(([ending, server]) => [ending, `${server}:43`])),
      root: null,
      connector: `${host}:${whoisPort}`,
    },
    dns: { connector: `${host}:${dnsPort}` },
    settings: {
      registrar: `http://${REGISTRAR_HOST}/availability`,
      markRegister: `http://${MARK_HOST}/search`,
      timeZone: 'Europe/London',
      resolvers: [`${host}:${dnsPort}`],
      rdapBootstrap: join(files, 'rdap-bootstrap.json'),
      registryIntervalMs: 5,
      archiveTimeMap: `http://${ARCHIVE_HOST}/timemap/link/{url}`,
      crawlDelayMs: 25,
      currency: 'EUR',
      rates: { GBP: 1.15, USD: 0.92 },
      searchEngine: `http://${SEARCH_HOST}/opensearch.xml`,
      isDryRun: false,
      accounts: [
        ...VENUES.map(({ host, name, currency }) => ({
          venue: name,
          address: `http://${host}/desk`,
          key: ACCOUNT_KEY,
          currency,
        })),
        { venue: 'Coombe Names', address: `http://${REGISTRAR_HOST}/desk`, key: ACCOUNT_KEY, currency: 'EUR' },
      ],
      registrarAccount: 'Coombe Names',
      connections: DESCRIBED,
    },
    worldFiles: files,
  };
  writeFileSync(join(folder, 'config.json'), JSON.stringify(config, null, 2));
  process.stdout.write(
    `world ready: ${world.domains.size} domains, ${world.links.length} links, ${Math.round(performance.now() - began)} ms\n`,
  );
  process.on('SIGTERM', () => process.exit(0));
  process.on('SIGINT', () => process.exit(0));
}

/** The product may have moved the world's time forward: `clock.json` of the data folder says by how much. */
class ShiftedClock {
  private shift = 0;
  private readAt = 0;

  constructor(private readonly folder: string) {}

  shiftMs(): number {
    if (Date.now() - this.readAt > 500) {
      this.readAt = Date.now();
      try {
        this.shift = Number(JSON.parse(readFileSync(join(this.folder, 'clock.json'), 'utf8')).forwardMs) || 0;
      } catch {
        // it was never moved
      }
    }
    return this.shift;
  }
}

main().catch((error: Error) => {
  process.stderr.write(`The demo world cannot start: ${error.message}\n`);
  process.exit(1);
});
