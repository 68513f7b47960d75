import { getServers } from 'node:dns';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { z } from 'zod';
import { HostPort, Settings, withNewNames, withoutKeys } from '../../core/settings/settings';

const Config = z.object({
  mode: z.enum(['real', 'demo']).default('real'),
  /** Demo: the moment the world starts at, and the real moment it was started. */
  clock: z.object({ worldStart: z.iso.datetime(), realStart: z.iso.datetime() }).nullable().default(null),
  /** `host:port` that stands in for every web server. */
  connector: HostPort.nullable().default(null),
  whois: z
    .object({ servers: z.record(z.string(), HostPort), root: HostPort.nullable(), connector: HostPort.nullable() })
    .default({ servers: {}, root: 'whois.iana.org:43', connector: null }),
  /** `host:port` that stands in for every ending's own DNS servers. */
  dns: z.object({ connector: HostPort.nullable() }).default({ connector: null }),
  settings: z.preprocess((given) => (isObject(given) ? withNewNames(given) : given), Settings.partial().default({})),
  /** Demo: where files of the world lie, for the first steps. */
  worldFiles: z.string().nullable().default(null),
});
const isObject = (value: unknown): value is object => typeof value === 'object' && value !== null;
export type Config = z.infer<typeof Config>;

/** The data folder: JAM_LADLE_DATA, or `data/real` under the working folder. Created when missing. */
export function dataFolder(): string {
  const given = process.env.JAM_LADLE_DATA;
  const folder = given ? resolve(given) : resolve('data/real');
  mkdirSync(folder, { recursive: true });
  return folder;
}

/** Reads `config.json` of the data folder; without it, real mode with its defaults. @throws with a message for people. */
export function loadConfig(folder: string): Config {
  const path = join(folder, 'config.json');
  if (!existsSync(path)) return Config.parse({});
  let value: unknown;
  try {
    value = JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new Error(`${path} is no JSON: ${(error as Error).message}`);
  }
  const parsed = Config.safeParse(value);
  if (!parsed.success) throw new Error(`${path}: ${z.prettifyError(parsed.error)}`);
  return parsed.data;
}

/** Rewrites `config.json` without the keys in its settings; all else stays. */
export function takeKeysOut(folder: string): void {
  const path = join(folder, 'config.json');
  if (!existsSync(path)) return;
  const { settings, ...others } = z
    .looseObject({ settings: z.looseObject({}).optional() })
    .parse(JSON.parse(readFileSync(path, 'utf8')));
  if (!settings) return;
  writeFileSync(`${path}.new`, JSON.stringify({ ...others, settings: withoutKeys(withNewNames(settings)) }, null, 2), {
    mode: 0o600,
  });
  renameSync(`${path}.new`, path);
}

/** Now, in ms since 1970 UTC; in the demo, the world's now, moved forward by so much. */
export function now(config: Config, forwardMs = 0): number {
  if (!config.clock) return Date.now();
  return Date.parse(config.clock.worldStart) + (Date.now() - Date.parse(config.clock.realStart)) + forwardMs;
}

/** How often each process, the servers of the demo's world too, looks how far its time was moved. */
export const FORWARD_LOOK_MS = 500;

/** By how much the demo's time was moved forward: kept in a file that all its processes read. */
export class Forward {
  private ms = 0;
  private readAt = Number.NEGATIVE_INFINITY;
  private readonly path: string;

  constructor(folder: string) {
    this.path = join(folder, 'clock.json');
  }

  /** ms; 0 where it was never moved. */
  get(): number {
    if (performance.now() - this.readAt > FORWARD_LOOK_MS) {
      this.readAt = performance.now();
      this.ms = existsSync(this.path) ? Number(JSON.parse(readFileSync(this.path, 'utf8')).forwardMs) || 0 : 0;
    }
    return this.ms;
  }

  move(byMs: number): void {
    const forwardMs = this.get() + byMs;
    writeFileSync(`${this.path}.new`, JSON.stringify({ forwardMs }));
    renameSync(`${this.path}.new`, this.path);
    this.ms = forwardMs;
  }
}

export function resolversOf(settings: Settings): string[] {
  if (settings.resolvers.length > 0) return settings.resolvers;
  return getServers().map((server) =>
    server.includes(':') ? (server.startsWith('[') ? server : `[${server}]:53`) : `${server}:53`,
  );
}
