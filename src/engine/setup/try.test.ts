import { mkdtempSync, writeFileSync } from 'node:fs';
import type { RequestListener } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type packet from 'dns-packet';
import { afterEach, describe, expect, it } from 'vitest';
import { Settings } from '../../core/settings/settings';
import { setBy, TRIED, type TriedAbility } from '../../core/setup/abilities';
import { closeServers, dnsAnswer, dnsServer, httpServer, tcpServer } from '../../net/testing';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { tryAbility } from './try';

afterEach(closeServers);

const NAME = 'pellgatehives.org';
const QUICK_MS = 400;

async function ask(
  ability: TriedAbility,
  given: Partial<Settings>,
  question = NAME,
  config: Partial<Store['config']> = {},
) {
  const store = await freshStore(config);
  const settings = Settings.parse({ allowedPrivate: ['127.0.0.1'], ...given });
  return tryAbility(store, ability, settings, question, new AbortController().signal, QUICK_MS);
}

/** Servers of HTTP that everybody may have before them, by what is to come of it. */
const BAD: [outcome: 'refused' | 'nonsense' | 'silent', says: RegExp, reply: RequestListener][] = [
  ['refused', /40[13]|429|refus/i, (_, reply) => reply.writeHead(403, { 'content-type': 'text/plain' }).end('not you')],
  [
    'nonsense',
    /no |none|not follow|not describe|neither|something/i,
    (_, reply) => reply.writeHead(200, { 'content-type': 'text/html' }).end('<!doctype html><p>Parked for <b>you</b>'),
  ],
  ['silent', /did not answer/, () => undefined],
];
const json =
  (value: unknown): RequestListener =>
  (_, reply) =>
    reply.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify(value));

/** A bootstrap file (RFC 9224) that sends all of .org to a server. */
function bootstrap(base: string): string {
  const path = join(mkdtempSync(join(tmpdir(), 'bootstrap-')), 'dns.json');
  writeFileSync(path, JSON.stringify({ services: [[['org'], [`http://${base}/rdap/`]]] }));
  return path;
}
const RECORD = {
  objectClassName: 'domain',
  ldhName: NAME,
  status: ['active'],
  events: [
    { eventAction: 'registration', eventDate: '2009-03-04T10:00:00Z' },
    { eventAction: 'expiration', eventDate: '2027-03-04T10:00:00Z' },
  ],
  rdapConformance: ['rdap_level_0'],
};
const rdap =
  (status: number, body: object): RequestListener =>
  (_, reply) =>
    reply.writeHead(status, { 'content-type': 'application/rdap+json' }).end(JSON.stringify(body));

/** A server of OpenSearch and what it finds. */
const search: RequestListener = (request, reply) => {
  const isFeed = request.url?.startsWith('/find');
  reply
    .writeHead(200, { 'content-type': 'application/xml' })
    .end(
      isFeed
        ? '<feed xmlns="http://www.w3.org/2005/Atom"><entry><title>Hives of the moor</title><link href="http://wexcombe.org/hives"/></entry></feed>'
        : `<OpenSearchDescription xmlns="http://a9.com/-/spec/opensearch/1.1/"><Url type="application/atom+xml" template="http://${request.headers.host}/find?q={searchTerms}"/></OpenSearchDescription>`,
    );
};

/** An archive: its TimeMaps, an index of the same, and what it hands out. */
const archive: RequestListener = (request, reply) => {
  const at = `http://${request.headers.host}/web`;
  if (request.url?.startsWith('/web/'))
    reply
      .writeHead(200, { 'content-type': 'text/html', 'memento-datetime': 'Tue, 27 Oct 2009 20:49:54 GMT' })
      .end('<p>Hives');
  else if (request.url?.startsWith('/index'))
    reply.end(`k 20000620180259 http://${NAME}/ text/html 200\nk 20091027204954 http://${NAME}/ text/html 200\n`);
  else
    reply.end(
      `<http://${NAME}/>;rel="original",<${at}/1>;rel="memento";datetime="Tue, 20 Jun 2000 18:02:59 GMT",<${at}/2>;rel="memento";datetime="Tue, 27 Oct 2009 20:49:54 GMT"`,
    );
};

/** What of the settings names a service at an address, and what it says when all is well. */
const BY_HTTP: Record<
  'history' | 'registrar' | 'marks' | 'search' | 'accounts' | 'records',
  { set(address: string): Partial<Settings>; field: string; well: RequestListener; understood: RegExp; came: RegExp }
> = {
  history: {
    set: (address) => ({ archiveTimeMap: `http://${address}/map/{url}` }),
    field: 'archiveTimeMap',
    well: archive,
    understood: /^2 captures of pellgatehives\.org, from 2000-06-20 to 2009-10-27\.$/,
    came: /rel="memento"/,
  },
  registrar: {
    set: (address) => ({ registrar: `http://${address}/` }),
    field: 'registrar',
    well: json({ domain: NAME, availability: 'available', priceMinor: 1150, currency: 'EUR' }),
    understood: /^pellgatehives\.org is available\. It costs .*11\.50/,
    came: /"priceMinor":1150/,
  },
  marks: {
    set: (address) => ({ markRegister: `http://${address}/` }),
    field: 'markRegister',
    well: json({ register: 'Marks of Coombe', marks: [{ number: '7', mark: 'PELLGATE', owner: 'Pellgate Honey' }] }),
    understood: /^1 trademark, the first PELLGATE of Pellgate Honey\.$/,
    came: /PELLGATE/,
  },
  search: {
    set: (address) => ({ searchEngine: `http://${address}/description` }),
    field: 'searchEngine',
    well: search,
    understood: /^1 page, the first Hives of the moor\.$/,
    came: /OpenSearchDescription/,
  },
  accounts: {
    set: (address) => ({
      accounts: [{ venue: 'Saltmarch', address: `http://${address}/`, key: 'a-key-of-the-test', currency: 'EUR' }],
    }),
    field: 'accounts',
    well: json({ domain: NAME, kind: 'bid', state: 'open', priceMinor: 4200, currency: 'EUR', closesAt: null }),
    understood: /^Saltmarch has pellgatehives\.org as bid, open, 42 EUR/,
    came: /"state":"open"/,
  },
  records: {
    set: (address) => ({ rdapBootstrap: bootstrap(address) }),
    field: '',
    well: rdap(200, RECORD),
    understood: /^pellgatehives\.org is registered\./,
    came: /"ldhName":"pellgatehives\.org"/,
  },
};

describe.each(Object.entries(BY_HTTP))('trying %s', (name, { set, field, well, understood, came }) => {
  const ability = name as keyof typeof BY_HTTP;

  it('says what was understood, what came and how long it took', async () => {
    const tried = await ask(ability, set(await httpServer(well)));
    expect(tried).toMatchObject({ ability, outcome: 'works', problem: null });
    expect(tried.understood[0]).toMatch(understood);
    expect(tried.came).toMatch(came);
    expect(tried.asked).toMatch(/\?/);
    expect(tried.elapsedMs).toBeGreaterThan(0);
  });

  it.each(BAD)('says that it is %s', async (outcome, says, reply) => {
    const tried = await ask(ability, set(await httpServer(reply)));
    expect(tried).toMatchObject({ outcome, problem: { field: field || null } });
    expect(tried.problem?.words).toMatch(says);
    expect(tried.understood).toEqual([]);
  });

  it('names the setting that lets an address inside be reached', async () => {
    const tried = await ask(ability, { ...set(await httpServer(well)), allowedPrivate: [] });
    expect(tried).toMatchObject({
      outcome: ability === 'records' ? 'silent' : 'refused',
      problem: { field: 'allowedPrivate' },
    });
  });
});

describe('trying DNS', () => {
  const NS: packet.Answer = { type: 'NS', name: NAME, ttl: 60, data: 'ns1.coombehosting.net' };
  const dns = (reply: (query: packet.Packet) => Buffer | null) =>
    dnsServer(reply).then((resolver) => ask('dns', { resolvers: [resolver], asksEndings: false }));
  const honest = (query: packet.Packet) =>
    query.questions?.[0].name === NAME ? dnsAnswer(query, { answers: [NS] }) : dnsAnswer(query, { rcode: 3 });

  it('tells to whom a name is delegated, or that there is none', async () => {
    expect(await dns(honest)).toMatchObject({
      outcome: 'works',
      understood: [expect.stringMatching(/^pellgatehives\.org is delegated to ns1\.coombehosting\.net, says 127/)],
      came: expect.stringContaining('pellgatehives.org NS ns1.coombehosting.net'),
    });
    expect((await dns((query) => dnsAnswer(query, { rcode: 3 }))).understood[0]).toMatch(/^There is no pellgatehives/);
  });

  it('says that it is refused, nonsense or silent, and names the resolvers', async () => {
    const refused = await dns((query) => dnsAnswer(query, { rcode: 5 }));
    expect(refused).toMatchObject({ outcome: 'refused', problem: { field: 'resolvers' } });
    // it finds servers for whatever is asked
    const liar = await dns((query) =>
      dnsAnswer(query, { answers: [{ ...NS, name: query.questions?.[0].name ?? '' } as packet.Answer] }),
    );
    expect(liar).toMatchObject({ outcome: 'nonsense', problem: { field: 'resolvers' } });
    expect(liar.problem?.words).toContain('names that do not exist');
    expect(await dns(() => null)).toMatchObject({ outcome: 'silent', problem: { field: 'resolvers' } });
  });
});

describe('trying registration data', () => {
  const by = async (reply: RequestListener) => ask('records', { rdapBootstrap: bootstrap(await httpServer(reply)) });

  it('tells the facts of a record, and what is reserved', async () => {
    const { understood } = await by(rdap(200, RECORD));
    expect(understood).toEqual([
      'pellgatehives.org is registered.',
      'Registered on 2009-03-04.',
      'Expires on 2027-03-04.',
      'Status: active.',
    ]);
    const none = await by(rdap(404, { errorCode: 404, title: 'Not found', rdapConformance: ['rdap_level_0'] }));
    expect(none).toMatchObject({
      outcome: 'works',
      understood: ['It has no record of pellgatehives.org.', expect.stringContaining('exists')],
    });
  });

  it('asks by WHOIS where there is no RDAP', async () => {
    const server = await tcpServer((socket) =>
      socket.once('data', () =>
        socket.end(`Domain Name: pellgatehives.de\r\nCreation Date: 2009-03-04\r\nRegistrar: Coombe Names\r\n`),
      ),
    );
    const config = { whois: { servers: { de: server }, root: null, connector: null } };
    const tried = await ask('records', { rdapBootstrap: bootstrap('127.0.0.1:9') }, 'pellgatehives.de', config);
    expect(tried).toMatchObject({ outcome: 'works', asked: expect.stringContaining(`WHOIS, ${server}`) });
    expect(tried.understood).toContain('Registrar: Coombe Names.');
    expect(tried.came).toContain('Creation Date: 2009-03-04');
    const silent = { whois: { servers: { de: await tcpServer(() => undefined) }, root: null, connector: null } };
    const none = await ask('records', { rdapBootstrap: bootstrap('127.0.0.1:9') }, 'pellgatehives.de', silent);
    expect(none).toMatchObject({ outcome: 'silent' });
  });

  it('names the list of servers where that is what fails', async () => {
    const field = { problem: { field: 'rdapBootstrap' } };
    expect(await ask('records', { rdapBootstrap: '/nowhere/dns.json' })).toMatchObject({
      outcome: 'nonsense',
      ...field,
    });
    for (const [outcome, , reply] of BAD)
      expect(await ask('records', { rdapBootstrap: `http://${await httpServer(reply)}/dns.json` })).toMatchObject({
        outcome,
        ...field,
      });
    const nobody = await ask('records', { rdapBootstrap: bootstrap('127.0.0.1:9') }, 'pellgatehives.de', {
      whois: { servers: {}, root: null, connector: null },
    });
    expect(nobody.problem?.words).toContain('Neither RDAP nor WHOIS is known for .de');
  });
});

describe('trying an archive', () => {
  it('reads one capture, where it is said how an index hands it out', async () => {
    const address = await httpServer(archive);
    const index = `http://${address}/index?url={url}`;
    const [counted, read] = [
      await ask('history', { archiveTimeMap: index }),
      await ask('history', { archiveTimeMap: index, archiveCapture: `http://${address}/web/{timestamp}id_/{url}` }),
    ];
    const captures = '2 captures of pellgatehives.org, from 2000-06-20 to 2009-10-27.';
    expect(counted).toMatchObject({
      outcome: 'works',
      understood: [captures, expect.stringContaining('counted only')],
    });
    expect(read.understood).toEqual([captures, 'The last of them is handed out: it answered 200, text/html.']);
    expect(read.came).toContain(`/web/20091027204954id_/http://${NAME}/`);
    const lost = await ask('history', {
      archiveTimeMap: index,
      archiveCapture: `http://${address}/index/{timestamp}/{url}`,
    });
    expect(lost.understood[1]).toMatch(/is not handed out: .* answered 200 and no capture/);
  });

  it('does not take "not found" for an archive that works', async () => {
    const address = await httpServer((_, reply) => reply.writeHead(404).end());
    const tried = await ask('history', { archiveTimeMap: `http://${address}/{url}` });
    expect(tried).toMatchObject({ outcome: 'nonsense', problem: { field: 'archiveTimeMap' } });
    expect(tried.problem?.words).toContain('404');
  });
});

describe('trying orders', () => {
  it('asks every account, and sends and shows no key that is missing or that it has', async () => {
    const none = await httpServer((_, reply) => reply.writeHead(404).end());
    const account = { venue: 'Saltmarch', address: `http://${none}/`, key: 'a-key-of-the-test', currency: 'EUR' };
    const tried = await ask('accounts', { accounts: [account] });
    expect(tried).toMatchObject({ outcome: 'works' });
    expect(JSON.stringify(tried)).not.toContain('a-key-of-the-test');
    expect(await ask('accounts', { accounts: [{ ...account, key: '' }] })).toMatchObject({ outcome: 'refused' });
    const echo = await httpServer((request, reply) => reply.end(`you said ${request.headers.authorization}`));
    const echoed = await ask('accounts', { accounts: [{ ...account, address: `http://${echo}/` }] });
    expect(echoed.came).toContain('you said Bearer …');
    expect(JSON.stringify(echoed)).not.toContain('a-key-of-the-test');
  });
});

describe('trying mail', () => {
  const NEVER: Record<string, string> = {};
  /** A mail server that answers each command by its first word. */
  const smtp = (answers: Record<string, string>) =>
    tcpServer((socket) => {
      let isMail = false;
      socket.write('220 post\r\n');
      socket.on('data', (data) => {
        const text = data.toString();
        if (isMail) {
          if (!text.includes('\r\n.\r\n')) return;
          isMail = false;
          socket.write('250 kept as 17\r\n');
          return;
        }
        const word = text.slice(0, 4).trim().toUpperCase();
        isMail = word === 'DATA' && answers.DATA === undefined;
        socket.write(`${answers[word] ?? (isMail ? '354 go on' : '250 well')}\r\n`);
      });
    });
  const send = async (address: string) => ask('mail', { smtpUrl: `smtp://${address}`, digestTo: 'mara@pellgate.org' });

  it('sends one, and tells what the server said', async () => {
    expect(await send(await smtp(NEVER))).toMatchObject({
      outcome: 'works',
      came: expect.stringContaining('kept as 17'),
      understood: [expect.stringContaining('mara@pellgate.org')],
    });
  });

  it('says that it is refused, nonsense or silent, and names the field', async () => {
    expect(await send(await smtp({ RCPT: '550 nobody here' }))).toMatchObject({
      outcome: 'refused',
      problem: { field: 'digestTo' },
    });
    const chatty = await tcpServer((socket) => socket.write('HTTP/1.1 400 Bad Request\r\n\r\n'));
    expect(await send(chatty)).toMatchObject({ outcome: 'nonsense', problem: { field: 'smtpUrl' } });
    expect(await send(await tcpServer(() => undefined))).toMatchObject({
      outcome: 'silent',
      problem: { field: 'smtpUrl' },
    });
  });
});

describe('trying what is not set', () => {
  it.each(TRIED.filter((ability) => ability !== 'dns'))(
    '%s contacts nobody and says what it takes',
    async (ability) => {
      const tried = await ask(ability, { rdapBootstrap: '' });
      expect(tried).toMatchObject({ outcome: 'unset', came: '' });
      expect(tried.problem?.words).not.toBe('');
    },
  );

  it('is kept with what it was asked by, so that another setting is another try', async () => {
    const before = Settings.parse({ archiveTimeMap: 'http://a/{url}' });
    expect(setBy('history', before)).toBe(setBy('history', { ...before, registrar: 'http://b/' }));
    expect(setBy('history', before)).not.toBe(setBy('history', { ...before, archiveTimeMap: 'http://c/{url}' }));
    expect(setBy('mail', { ...before, smtpPassword: 'secret' })).not.toContain('secret');
  });

  it('refuses a question that is none', async () => {
    await expect(ask('history', { archiveTimeMap: 'http://a/{url}' }, 'hives')).rejects.toThrow('no domain');
    await expect(ask('search', { searchEngine: 'http://a/' }, ' ')).rejects.toThrow('say some');
  });
});

describe('trying the webhook', () => {
  const hook =
    (status: number): RequestListener =>
    (request, reply) => {
      let body = '';
      request.on('data', (chunk) => {
        body += chunk;
      });
      request.on('end', () => reply.writeHead(status).end(`${request.headers['x-jam-ladle-signature']} ${body}`));
    };
  const to = async (reply: RequestListener | null, more: Partial<Settings> = {}) =>
    ask('webhook', { webhookUrl: `http://${reply ? await httpServer(reply) : '127.0.0.1:9'}/`, ...more });

  it('says that it took a message, signed where there is a secret', async () => {
    const signed = await to(hook(200), { webhookSecret: 'between us' });
    expect(signed).toMatchObject({ outcome: 'works', understood: ['It took a test message.', 'It was signed.'] });
    expect(signed.came).toMatch(/sha256=[0-9a-f]{64} \{"from":"Jam Ladle"/);
    expect(signed.came).not.toContain('between us');
    expect((await to(hook(204))).understood[1]).toContain('no secret');
  });

  it.each([
    ['refused', hook(403), /answered 403/],
    ['nonsense', hook(404), /answered 404/],
    ['silent', () => undefined, /did not answer/],
    ['silent', null, /refuses connections|broke/],
  ] as const)('says that it is %s', async (outcome, reply, says) => {
    const tried = await to(reply);
    expect(tried).toMatchObject({ outcome, problem: { field: 'webhookUrl' } });
    expect(tried.problem?.words).toMatch(says);
  });
});

describe('trying files of web archives', () => {
  const at = (content: string | null) => {
    const folder = mkdtempSync(join(tmpdir(), 'warc-'));
    if (content !== null) writeFileSync(join(folder, 'a.warc'), content);
    return ask('history', { archiveTimeMap: '', warcPath: folder });
  };
  const RECORD_TEXT = 'WARC/1.0\r\nWARC-Type: warcinfo\r\nContent-Length: 2\r\n\r\nhi\r\n\r\n';

  it('says what they are, and that they are to be read', async () => {
    expect(await at(RECORD_TEXT)).toMatchObject({
      outcome: 'works',
      understood: [expect.stringContaining('1 file; the first begins'), expect.stringContaining('not read yet')],
    });
  });

  it('says that they are none, or not there', async () => {
    expect(await at('no record')).toMatchObject({ outcome: 'nonsense', problem: { field: 'warcPath' } });
    expect(await at(null)).toMatchObject({ outcome: 'nonsense', problem: { field: 'warcPath' } });
    expect(await ask('history', { archiveTimeMap: '', warcPath: '/nowhere/at/all' })).toMatchObject({
      outcome: 'silent',
      problem: { field: 'warcPath' },
    });
  });
});
