import type { Settings } from '../../core/settings/settings';
import { DnsClient } from '../../net/dns';
import { HttpClient } from '../../net/http';
import { RdapClient } from '../../net/rdap';
import { WhoisClient } from '../../net/whois';
import { resolversOf } from '../../store/base/config';
import type { Store } from '../../store/base/database';
import { type RegistrarService, registrarOf } from '../connections/services';
import type { LookupProblems } from './problems';

/** Begins the address of a server that is asked by WHOIS, among those of RDAP. */
export const WHOIS = 'whois ';
/** Who has the records of an ending is asked again after this, where it could not be found out. */
const UNSURE_MS = 10_000;
const ANSWER_MS = 15_000;

/** Who is asked for the record of a name: an RDAP base address, or `whois host:port`; null, with the cause: nobody can be. */
export interface RecordServer {
  server: string | null;
  cause: string | null;
  /** Key of the problem (lookup_problems) that keeps it from being known; null: there is none, nobody has such records. */
  problem: string | null;
}

/** The clients of the protocols that questions are put by, as the settings have them. */
export class LookupClients {
  readonly dns: DnsClient;
  readonly rdap: RdapClient;
  readonly whois: WhoisClient;
  readonly http: HttpClient;
  /** Who says whether a name can be registered; null: nobody is set. */
  readonly registrar: RegistrarService | null;
  private readonly serverOf = new Map<string, { found: RecordServer; until: number }>();

  constructor(
    { config }: Store,
    readonly settings: Settings,
  ) {
    const { userAgent, allowedPrivate, asksEndings, rdapBootstrap } = settings;
    this.http = new HttpClient({ userAgent, connector: config.connector, allowedPrivate, timeoutMs: ANSWER_MS });
    this.registrar = registrarOf(this.http, settings, { timeoutMs: ANSWER_MS });
    this.dns = new DnsClient({
      resolvers: resolversOf(settings),
      timeoutMs: 2000,
      tries: 2,
      connector: config.dns.connector,
      asksEndings,
      allowedPrivate,
    });
    this.rdap = new RdapClient(this.http, rdapBootstrap);
    this.whois = new WhoisClient({ ...config.whois, allowedPrivate, timeoutMs: ANSWER_MS });
  }

  async close(): Promise<void> {
    this.dns.close();
    await this.registrar?.close?.();
    await this.http.close();
  }

  /** Who has the records of an ending, as far as it was found out; undefined: it was not asked yet. */
  known(ending: string): RecordServer | undefined {
    const kept = this.serverOf.get(ending);
    return kept && kept.until > performance.now() ? kept.found : undefined;
  }

  /** Who has the records of an ending, or why that is not known. */
  async serverFor(ending: string, problems: LookupProblems): Promise<RecordServer> {
    const known = this.known(ending);
    if (known) return known;
    const causes: string[] = [];
    let problem: string | null = null;
    const orSay = async (key: string, ask: Promise<string | null>, cause: string, words: string, remedy: string) => {
      try {
        const answer = await ask;
        problems.gone(key);
        return answer;
      } catch (error) {
        const { message } = error as Error;
        causes.push(`${cause} (${message})`);
        problem ??= key;
        problems.met(key, `${words}: ${message}.`, remedy);
        return null;
      }
    };
    let server = await orSay(
      'bootstrap',
      this.rdap.serverFor(ending),
      'the list of RDAP servers cannot be read',
      `The list of RDAP servers, ${this.settings.rdapBootstrap}, cannot be read`,
      'Name another address or a file of it in Settings, or look whether this machine is on the network.',
    );
    if (server === null) {
      const whois = await orSay(
        'whois',
        this.whois.serverFor(ending),
        'the server that tells who has its WHOIS cannot be asked',
        `Who has the WHOIS of an ending cannot be asked`,
        'Look whether this machine is on the network and may reach port 43.',
      );
      server = whois && `${WHOIS}${whois}`;
    }
    const none = causes.length > 0 ? causes.join('; ') : `neither RDAP nor WHOIS is known for .${ending}`;
    const found = { server, cause: server === null ? none : null, problem: server === null ? problem : null };
    this.serverOf.set(ending, {
      found,
      until: causes.length > 0 ? performance.now() + UNSURE_MS : Number.POSITIVE_INFINITY,
    });
    return found;
  }
}
