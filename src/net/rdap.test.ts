import { mkdtempSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { readRdap } from '../core/lifecycle/rdap-answer';
import { HttpClient } from './http';
import { RdapClient } from './rdap';

const open: (() => void)[] = [];
afterEach(() => {
  for (const close of open.splice(0)) close();
});
const NAME = 'pellgatehives.org';
const rdap = (status: number, body: string, name: string) =>
  readRdap({ status, contentType: 'application/rdap+json', body, serverKnown: true }, name);

async function rdapServer(replies: { status: number; body?: object | string; headers?: Record<string, string> }[]) {
  let asked = 0;
  const server = createServer((_request, response) => {
    const { status, body = {}, headers = {} } = replies[Math.min(asked++, replies.length - 1)];
    response.writeHead(status, { 'content-type': 'application/rdap+json', ...headers });
    response.end(typeof body === 'string' ? body : JSON.stringify(body));
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  open.push(() => server.close());
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  const bootstrap = join(mkdtempSync(join(tmpdir(), 'rdap-')), 'bootstrap.json');
  writeFileSync(bootstrap, JSON.stringify({ services: [[['org', 'co.uk'], [base.slice(0, -1)]]] }));
  const http = new HttpClient({ allowedPrivate: ['127.0.0.1'] });
  return { client: new RdapClient(http, bootstrap), base };
}

describe('RdapClient', () => {
  // After the example of RFC 9083 section 5.3.
  const object = {
    objectClassName: 'domain',
    ldhName: 'PELLGATEHIVES.org',
    status: ['pending delete'],
    events: [
      { eventAction: 'registration', eventDate: '1990-12-31T23:59:59Z' },
      { eventAction: 'expiration', eventDate: '2026-12-31T23:59:59Z' },
    ],
    nameservers: [{ objectClassName: 'nameserver', ldhName: 'NS1.Coombe.example' }],
    entities: [
      {
        roles: ['registrar'],
        vcardArray: [
          'vcard',
          [
            ['version', {}, 'text', '4.0'],
            ['fn', {}, 'text', 'Coombe Names'],
          ],
        ],
      },
    ],
  };

  it('finds the server by the longest ending', async () => {
    const { client, base } = await rdapServer([]);
    expect(await client.serverFor('co.uk')).toBe(base);
    expect(await client.serverFor('other.org')).toBe(base);
    expect(await client.serverFor('de')).toBeNull();
  });

  it('reads a record', async () => {
    const { client, base } = await rdapServer([{ status: 200, body: object }]);
    expect(await client.domain(base, 'pellgatehives.org', true)).toMatchObject({
      outcome: 'found',
      record: {
        statuses: ['pending delete'],
        registeredAt: Date.UTC(1990, 11, 31, 23, 59, 59),
        registrar: 'Coombe Names',
        nameServers: ['ns1.coombe.example'],
      },
    });
  });

  it('reads the domain of RFC 9083, 5.3, figure for figure', () => {
    const links = [
      {
        value: 'https://example.net/domain/XXXX',
        rel: 'self',
        href: 'https://example.net/domain/XXXX',
        type: 'application/rdap+json',
      },
    ];
    const text = JSON.stringify({
      objectClassName: 'domain',
      handle: 'XXXX',
      ldhName: 'xn--fo-5ja.example',
      unicodeName: 'fóo.example',
      variants: [
        {
          relation: ['registered', 'conjoined'],
          variantNames: [{ ldhName: 'xn--fo-cka.example', unicodeName: 'fõo.example' }],
        },
        {
          relation: ['unregistered', 'registration restricted'],
          idnTable: '.EXAMPLE Swedish',
          variantNames: [{ ldhName: 'xn--fo-8ja.example' }],
        },
      ],
      status: ['locked', 'transfer prohibited'],
      publicIds: [{ type: 'ENS_Auth ID', identifier: '1234567890' }],
      nameservers: [
        {
          objectClassName: 'nameserver',
          handle: 'XXXX',
          ldhName: 'ns1.example.com',
          status: ['active'],
          ipAddresses: { v6: ['2001:db8::123', '2001:db8::124'], v4: ['192.0.2.1', '192.0.2.2'] },
          remarks: [{ description: ['She sells sea shells down by the sea shore.'] }],
          links,
          events: [{ eventAction: 'registration', eventDate: '1990-12-31T23:59:59Z' }],
        },
        { objectClassName: 'nameserver', handle: 'XXXX', ldhName: 'ns2.example.com', status: ['active'], links },
      ],
      secureDNS: {
        zoneSigned: true,
        delegationSigned: true,
        maxSigLife: 604800,
        keyData: [{ flags: 257, protocol: 3, algorithm: 8, publicKey: 'AwEAAa6eDzronzjEDbT...Jg1M5N rBSPkuXpdFE=' }],
      },
      remarks: [
        { description: ['She sells sea shells down by the sea shore.', 'Originally written by Terry Sullivan.'] },
      ],
      links,
      port43: 'whois.example.net',
      events: [
        { eventAction: 'registration', eventDate: '1990-12-31T23:59:59Z' },
        { eventAction: 'last changed', eventDate: '1991-12-31T23:59:59Z', eventActor: 'joe@example.com' },
        { eventAction: 'transfer', eventDate: '1991-12-31T23:59:59Z', eventActor: 'joe@example.com' },
        { eventAction: 'expiration', eventDate: '2016-12-31T23:59:59Z', eventActor: 'joe@example.com' },
      ],
      entities: [
        {
          objectClassName: 'entity',
          handle: 'XXXX',
          vcardArray: [
            'vcard',
            [
              ['version', {}, 'text', '4.0'],
              ['fn', {}, 'text', 'Joe User'],
              ['kind', {}, 'text', 'individual'],
            ],
          ],
          status: ['validated', 'locked'],
          roles: ['registrant'],
          remarks: [{ description: ['She sells sea shells down by the sea shore.'] }],
          links,
        },
      ],
    });
    expect(rdap(200, text, 'xn--fo-5ja.example')).toEqual({
      outcome: 'found',
      words: null,
      unread: [],
      record: {
        statuses: ['locked', 'transfer prohibited'],
        registeredAt: Date.UTC(1990, 11, 31, 23, 59, 59),
        expiresAt: Date.UTC(2016, 11, 31, 23, 59, 59),
        changedAt: Date.UTC(1991, 11, 31, 23, 59, 59),
        deletesAt: null,
        freeAt: null,
        registrant: 'Joe User',
        registrar: null,
        nameServers: ['ns1.example.com', 'ns2.example.com'],
      },
    });
    // the error of section 6 is no "no such domain"
    const error = {
      errorCode: 418,
      title: 'Your Beverage Choice is Not Available',
      description: ['I know coffee has more ummppphhh.', 'Sorry, dude!'],
    };
    expect(rdap(418, JSON.stringify(error), 'xn--fo-5ja.example').outcome).toBe('failed');
  });

  it('says that it was refused, and for how long', async () => {
    const { client, base } = await rdapServer([{ status: 429, headers: { 'retry-after': '30' } }, { status: 503 }]);
    expect(await client.domain(base, NAME, true)).toMatchObject({ outcome: 'refused', retryAfterMs: 30_000 });
    expect(await client.domain(base, NAME, true)).toMatchObject({ outcome: 'refused', retryAfterMs: null });
  });

  it('keeps an answer that it does not understand, and tells a broken connection from it', async () => {
    const { client, base } = await rdapServer([{ status: 200, body: 'rubbish' }]);
    expect(await client.domain(base, NAME, true)).toMatchObject({
      outcome: 'failed',
      isDropped: false,
      text: 'rubbish',
    });
    expect(await client.domain('http://127.0.0.1:9/', NAME, true)).toMatchObject({
      outcome: 'failed',
      isDropped: true,
    });
  });

  it.each([
    [404, '', 'not-found'],
    [200, 'not json', 'failed'],
    [200, '{"objectClassName":"nameserver"}', 'failed'],
    [200, '{"objectClassName":"domain","ldhName":"other.org"}', 'failed'],
    [200, '{"objectClassName":"domain"}', 'failed'],
    [200, '{"objectClassName":"domain","ldhName":"pellgatehives.org","status":"active"}', 'found'],
    [500, '', 'failed'],
    [302, '', 'failed'],
  ])('judges status %d with %j', (status, text, outcome) => {
    expect(rdap(status, text, 'pellgatehives.org').outcome).toBe(outcome);
  });
});
