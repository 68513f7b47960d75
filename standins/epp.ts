import type { AddressInfo } from 'node:net';
import { createServer, type TLSSocket } from 'node:tls';
import { XMLParser } from 'fast-xml-parser';

const EPP = 'urn:ietf:params:xml:ns:epp-1.0';
const DOMAIN = 'urn:ietf:params:xml:ns:domain-1.0';
const FEE = 'urn:ietf:params:xml:ns:epp:fee-1.0';

export interface EppOptions {
  cert: string;
  key: string;
  /** PEM of the authority that certificates of clients have to be from; left out: none is wanted. */
  clientAuthority?: string;
  logins: Record<string, string>;
  /** What a first year costs, and names with a price of their own; null: it names no fees. */
  fees: { currency: string; usual: string; premium: Record<string, string> } | null;
  /** Names that nobody gets, with why. */
  reserved?: Record<string, string>;
  /** What a registration has to come with. */
  wants?: ('registrant' | 'admin' | 'tech' | 'ns')[];
  /** Whether somebody looks at registrations before they are done. */
  isReviewed?: boolean;
  now?(): number;
}

export interface EppDomain {
  sponsor: string;
  createdAt: number;
  expiresAt: number;
  statuses: string[];
  authInfo: string;
  contacts: Record<string, string>;
  nameServers: string[];
}

interface Node {
  [name: string]: unknown;
}

/** What a frame says, without prefixes; each element a list. */
const xml = new XMLParser({ ignoreAttributes: false, removeNSPrefix: true, parseTagValue: false, attributeNamePrefix: '@', isArray: () => true }); // biome-ignore format: one line

const YEAR = 365 * 86_400_000;

/**
 * A registry that speaks EPP (RFC 5730, 5731, 5734, and 8748 where it names fees) over TLS, for one registrar or several: greeting, login,
 * logout, hello, and check, info and create of domains.
 */
export class EppStandIn {
  readonly domains = new Map<string, EppDomain>();
  /** The commands that came, by name and domain. */
  readonly heard: string[] = [];
  /** What is done instead of answering a command, once; null: it answers. `drop after`: a create is done, and nobody is told. */
  next: 'drop' | 'drop after' | 'silence' | 'nonsense' | number | null = null;
  private readonly sockets = new Set<TLSSocket>();
  private readonly server;
  private transactions = 0;

  constructor(private readonly options: EppOptions) {
    const { cert, key, clientAuthority } = options;
    this.server = createServer(
      { cert, key, ...(clientAuthority ? { ca: clientAuthority, requestCert: true, rejectUnauthorized: true } : {}) },
      (socket) => this.serve(socket),
    );
    this.server.on('tlsClientError', () => undefined);
  }

  /** @returns its `host:port`. */
  async listen(port = 0): Promise<string> {
    await new Promise<void>((done) => this.server.listen(port, '127.0.0.1', done));
    return `127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  close(): void {
    this.server.close();
    for (const socket of this.sockets) socket.destroy();
  }

  /** How many are logged in or about to. */
  get sessions(): number {
    return this.sockets.size;
  }

  private get now(): number {
    return this.options.now?.() ?? Date.now();
  }

  private serve(socket: TLSSocket): void {
    const session: Session = { login: '' };
    this.sockets.add(socket);
    socket.on('error', () => undefined);
    socket.on('close', () => this.sockets.delete(socket));
    let held = Buffer.alloc(0);
    this.send(socket, this.greeting());
    socket.on('data', (part) => {
      held = Buffer.concat([held, part]);
      while (held.length >= 4 && held.length >= held.readUInt32BE()) {
        const length = held.readUInt32BE();
        const message = held.toString('utf8', 4, length);
        held = held.subarray(length);
        this.take(socket, session, message);
      }
    });
  }

  private send(socket: TLSSocket, body: string): void {
    const message = Buffer.from(`<?xml version="1.0" encoding="UTF-8"?>\n<epp xmlns="${EPP}">${body}</epp>`, 'utf8');
    const length = Buffer.alloc(4);
    length.writeUInt32BE(message.length + 4);
    // in two parts, as networks do
    socket.write(Buffer.concat([length, message.subarray(0, 40)]));
    setImmediate(() => socket.write(message.subarray(40)));
  }

  private greeting(): string {
    const extension = this.options.fees ? `<svcExtension><extURI>${FEE}</extURI></svcExtension>` : '';
    return `<greeting><svID>Registry of Coombe endings</svID><svDate>${iso(this.now)}</svDate><svcMenu><version>1.0</version><lang>en</lang><objURI>${DOMAIN}</objURI><objURI>urn:ietf:params:xml:ns:contact-1.0</objURI>${extension}</svcMenu><dcp><access><all/></access><statement><purpose><prov/></purpose><recipient><ours/></recipient><retention><stated/></retention></statement></dcp></greeting>`;
  }

  private take(socket: TLSSocket, session: Session, message: string): void {
    const epp = one(xml.parse(message) as Node, 'epp');
    const command = one(epp, 'command');
    const id = textOf(command, 'clTRID');
    const answer: Answer = (code, data = '', extension = '', reason = '') => {
      const said = reason ? `<extValue><value><undef/></value><reason>${reason}</reason></extValue>` : '';
      this.send(
        socket,
        `<response><result code="${code}"><msg>${WORDS[code] ?? 'Command failed'}</msg>${said}</result>${data && `<resData>${data}</resData>`}${extension && `<extension>${extension}</extension>`}<trID><clTRID>${id}</clTRID><svTRID>C-${++this.transactions}</svTRID></trID></response>`,
      );
      // after its second part
      if (code === 1500 || code >= 2500) setImmediate(() => socket.end());
    };
    if (epp && 'hello' in epp) this.send(socket, this.greeting());
    else if (!command) answer(2001);
    else this.carryOut(socket, session, command, answer);
  }

  private carryOut(socket: TLSSocket, session: Session, command: Node, answer: Answer): void {
    const kind = ['login', 'logout', 'check', 'info', 'create'].find((name) => name in command) ?? '';
    const asked = one(command, kind);
    const extension = one(command, 'extension');
    this.heard.push([kind || '?', domainIn(asked)].filter(Boolean).join(' '));
    if (kind === 'login') {
      this.login(asked, session, answer);
      return;
    }
    const instead = this.next === 'drop after' && kind !== 'create' ? null : this.next;
    if (instead !== null) this.next = null;
    if (instead === 'drop') socket.destroy();
    else if (instead === 'nonsense') this.send(socket, '<response><result>');
    else if (typeof instead === 'number') answer(instead);
    else if (instead === 'silence') return;
    else if (session.login === '') answer(2002);
    else if (kind === 'logout') answer(1500);
    else if (kind === 'check') this.check(asked, extension, answer);
    else if (kind === 'info') this.info(asked, session.login, answer);
    // done, and the line breaks before anybody is told
    else if (kind === 'create')
      this.create(asked, extension, session.login, instead === 'drop after' ? () => socket.destroy() : answer);
    else answer(2101);
  }

  private login(login: Node | undefined, session: Session, answer: Answer): void {
    const name = textOf(login, 'clID');
    const objects = one(login, 'svcs')?.objURI as unknown[] | undefined;
    const isKnown = this.options.logins[name] === textOf(login, 'pw');
    if (isKnown) session.login = name;
    answer(!objects?.includes(DOMAIN) ? 2307 : isKnown ? 1000 : 2200);
  }

  private check(check: Node | undefined, extension: Node | undefined, answer: Answer): void {
    const name = domainIn(check);
    const { fees, reserved = {} } = this.options;
    const reason = reserved[name] ?? (this.domains.has(name) ? 'In use' : '');
    const data = `<domain:chkData xmlns:domain="${DOMAIN}"><domain:cd><domain:name avail="${reason === '' ? 1 : 0}">${name}</domain:name>${reason && `<domain:reason>${reason}</domain:reason>`}</domain:cd></domain:chkData>`;
    if (!fees || !one(extension, 'check')) {
      answer(1000, data);
      return;
    }
    const price = fees.premium[name];
    const cost = `<fee:class>${price ? 'premium' : 'standard'}</fee:class><fee:command name="create" standard="${price ? 0 : 1}"><fee:period unit="y">1</fee:period><fee:fee description="Registration" refundable="1">${price ?? fees.usual}</fee:fee></fee:command>`;
    const fee = `<fee:chkData xmlns:fee="${FEE}"><fee:currency>${fees.currency}</fee:currency><fee:cd avail="1"><fee:objID>${name}</fee:objID>${cost}</fee:cd></fee:chkData>`;
    answer(1000, data, fee);
  }

  private info(info: Node | undefined, login: string, answer: Answer): void {
    const name = domainIn(info);
    const domain = this.domains.get(name);
    if (!domain) {
      answer(2303);
      return;
    }
    const { sponsor, createdAt, expiresAt, statuses, authInfo } = domain;
    const secret = sponsor === login ? `<domain:authInfo><domain:pw>${authInfo.replaceAll('&', '&amp;').replaceAll('<', '&lt;')}</domain:pw></domain:authInfo>` : ''; // biome-ignore format: one line
    const status = statuses.map((one) => `<domain:status s="${one}"/>`).join('');
    answer(
      1000,
      `<domain:infData xmlns:domain="${DOMAIN}"><domain:name>${name}</domain:name><domain:roid>C${createdAt}-COOMBE</domain:roid>${status}<domain:clID>${sponsor}</domain:clID><domain:crID>${sponsor}</domain:crID><domain:crDate>${iso(createdAt)}</domain:crDate><domain:exDate>${iso(expiresAt)}</domain:exDate>${secret}</domain:infData>`,
    );
  }

  private create(create: Node | undefined, extension: Node | undefined, login: string, answer: Answer): void {
    const asked = one(create, 'create');
    const name = domainIn(create);
    const { fees, isReviewed = false } = this.options;
    const contacts: Record<string, string> = { registrant: textOf(asked, 'registrant') };
    for (const contact of (asked?.contact as Node[] | undefined) ?? [])
      contacts[String(contact['@type'])] = String(contact['#text']);
    const nameServers = ((one(asked, 'ns')?.hostObj as string[] | undefined) ?? []).map(String);
    const authInfo = textOf(one(asked, 'authInfo'), 'pw');
    const agreed = one(extension, 'create');
    const domain: EppDomain = {
      sponsor: login,
      createdAt: this.now,
      expiresAt: this.now + YEAR,
      statuses: isReviewed ? ['pendingCreate'] : ['ok'],
      authInfo,
      contacts,
      nameServers,
    };
    const [code, reason] = this.faultOf(name, domain, agreed && textOf(agreed, 'fee'));
    if (code >= 2000) {
      answer(code, '', '', reason);
      return;
    }
    this.domains.set(name, domain);
    const price = fees && (fees.premium[name] ?? fees.usual);
    const charged =
      fees && agreed
        ? `<fee:creData xmlns:fee="${FEE}"><fee:currency>${fees.currency}</fee:currency><fee:fee>${price}</fee:fee></fee:creData>`
        : '';
    const { createdAt, expiresAt } = domain;
    const data = `<domain:creData xmlns:domain="${DOMAIN}"><domain:name>${name}</domain:name><domain:crDate>${iso(createdAt)}</domain:crDate><domain:exDate>${iso(expiresAt)}</domain:exDate></domain:creData>`;
    answer(code, data, charged);
  }

  /** Whether a name is registered so, by the code of RFC 5730, and why not. */
  private faultOf(name: string, domain: EppDomain, agreed: string | undefined): [number, string] {
    const { fees, reserved = {}, wants = [], isReviewed = false } = this.options;
    const { contacts, nameServers, authInfo } = domain;
    if (name in reserved) return [2306, reserved[name]];
    if (this.domains.has(name)) return [2302, ''];
    const missing = wants.find((want) => (want === 'ns' ? nameServers.length === 0 : !contacts[want]));
    if (missing) return [2003, `${missing} is missing`];
    if (!STRONG.test(authInfo)) return [2306, 'authInfo is too weak'];
    // a name with a price of its own is not had by whoever did not agree to it (RFC 8748, 5.2.1)
    if (fees && agreed !== undefined && agreed !== (fees.premium[name] ?? fees.usual))
      return [2004, 'the fee does not match'];
    if (fees && agreed === undefined && name in fees.premium) return [2003, 'a fee is needed'];
    return [isReviewed ? 1001 : 1000, ''];
  }
}

interface Session {
  login: string;
}

/** Small and large letters, digits and marks, sixteen in all. */
const STRONG = /^(?=.*[a-z])(?=.*[A-Z])(?=.*\d)(?=.*[^\w\s]).{16,}$/;

type Answer = (code: number, data?: string, extension?: string, reason?: string) => void;

/** RFC 5730, 3. */
const WORDS: Record<number, string> = {
  1000: 'Command completed successfully',
  1001: 'Command completed successfully; action pending',
  1500: 'Command completed successfully; ending session',
  2001: 'Command syntax error',
  2002: 'Command use error',
  2003: 'Required parameter missing',
  2004: 'Parameter value range error',
  2101: 'Unimplemented command',
  2104: 'Billing failure',
  2200: 'Authentication error',
  2201: 'Authorization error',
  2302: 'Object exists',
  2303: 'Object does not exist',
  2306: 'Parameter value policy error',
  2307: 'Unimplemented object service',
  2400: 'Command failed',
  2502: 'Session limit exceeded; server closing connection',
};

const iso = (at: number) => new Date(at).toISOString();

/** The first element of a name; one without content is text. */
function one(node: Node | undefined, name: string): Node | undefined {
  const found = (node?.[name] as unknown[] | undefined)?.[0];
  return found === undefined ? undefined : typeof found === 'object' ? (found as Node) : { '#text': found };
}

function textOf(node: Node | undefined, name: string): string {
  return String(one(node, name)?.['#text'] ?? '');
}

/** The domain that a command is about. */
function domainIn(command: Node | undefined): string {
  const inner = one(command, 'check') ?? one(command, 'info') ?? one(command, 'create');
  return textOf(inner, 'name').toLowerCase();
}
