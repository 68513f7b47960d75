import { mkdtempSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startLookups } from '../src/engine/jobs/testing';
import type { Store } from '../src/store/base/database';
import { freshStore } from '../src/store/base/testing';
import { saveBrief } from '../src/store/shortlist/briefs';
import { bindBoth, makeDns } from '../standins/dns';
import { writeFiles } from '../standins/files';
import { MARK_HOST } from '../standins/mark-register';
import { REGISTRAR_HOST } from '../standins/registrar';
import { makeWhoisServer } from '../standins/registries';
import { SEARCH_HOST } from '../standins/search';
import { makeWeb } from '../standins/web';
import { makeWorld, TRUSTED, type World } from '../standins/world';

export const START = Date.UTC(2026, 10, 20, 8);
export const now = () => START + 60_000;

export interface ServedWorld {
  world: World;
  /** A fresh store whose settings point at the world's servers. */
  store: Store;
  /** Folder of the world's files. */
  files: string;
  /** `host:port` of its DNS server. */
  dns: string;
  close(): void;
}

/** The world of a seed, with all its servers on loopback in this process. */
export async function serveWorld(seed: number, listed = 2000): Promise<ServedWorld> {
  const world = makeWorld(seed, START, listed);
  const files = mkdtempSync(join(tmpdir(), 'world-'));
  await writeFiles(world, files);
  const web = makeWeb(world, now);
  const whois = makeWhoisServer(world, now);
  const { udp, tcp } = makeDns(world, now);
  for (const server of [web, whois]) await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const portOf = (server: typeof tcp) => (server.address() as AddressInfo).port;
  const dns = `127.0.0.1:${await bindBoth(udp, tcp, '127.0.0.1')}`;
  const store = await freshStore({
    clock: { worldStart: new Date(START).toISOString(), realStart: new Date().toISOString() },
    connector: `127.0.0.1:${portOf(web)}`,
    whois: {
      servers: { de: 'whois.de.example:43', eu: 'whois.eu.example:43' },
      root: null,
      connector: `127.0.0.1:${portOf(whois)}`,
    },
    dns: { connector: dns },
    settings: {
      registrar: `http://${REGISTRAR_HOST}/availability`,
      markRegister: `http://${MARK_HOST}/search`,
      resolvers: [dns],
      rdapBootstrap: join(files, 'rdap-bootstrap.json'),
      registryIntervalMs: 6,
      archiveTimeMap: 'http://valearchive.net/timemap/link/{url}',
      searchEngine: `http://${SEARCH_HOST}/opensearch.xml`,
    },
  });
  saveBrief(store, {
    name: 'b',
    purpose: 'rebuild',
    subjectWords: [],
    trustedSites: TRUSTED,
    excludedEndings: [],
    budgetMinor: null,
    currency: 'EUR',
  });
  const stopAsker = startLookups(store);
  const close = () => {
    void stopAsker();
    web.closeAllConnections();
    web.close();
    whois.close();
    tcp.close();
    udp.close();
  };
  return { world, store, files, dns, close };
}
