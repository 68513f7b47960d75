import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { HttpClient } from './http';
import { SearchClient } from './search';

let server: Server;
let http: HttpClient;
let asked: string[] = [];
const answers: Record<string, [status: number, body: string]> = {};
const describes = (url: string) =>
  `<?xml version="1.0"?><OpenSearchDescription xmlns="http://a9.com/-/spec/opensearch/1.1/">${url}</OpenSearchDescription>`;
const feed = (entries: string) => `<feed xmlns="http://www.w3.org/2005/Atom"><title>t</title>${entries}</feed>`;

beforeAll(async () => {
  server = createServer((request, response) => {
    asked.push(request.url ?? '');
    const [status, body] = answers[(request.url ?? '').split('?')[0]] ?? [404, ''];
    response.writeHead(status).end(body);
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  http = new HttpClient({ connector: `127.0.0.1:${(server.address() as AddressInfo).port}` });
});
afterAll(async () => {
  await http.close();
  server.close();
});

const search = (path: string, phrase = 'honey & hives') =>
  new SearchClient(http, `http://finder.org${path}`).search(phrase, 5);

describe('a search', () => {
  it('reads the description once, and the entries of the feed', async () => {
    answers['/d'] = [
      200,
      describes(
        '<Url type="text/html" template="http://finder.org/h?q={searchTerms}"/><Url type="application/atom+xml" template="/a?q={searchTerms}&amp;n={count?}&amp;p={startPage?}&amp;l={language?}"/>',
      ),
    ];
    answers['/a'] = [
      200,
      feed(
        '<entry><title type="html">One &amp; all</title><link rel="self" href="http://finder.org/1"/><link href="http://one.org/x?a=1&amp;b=2"/><summary>s</summary></entry><entry><title>Two</title><link rel="alternate" href="http://two.org/"/></entry><entry><title>No link</title></entry>',
      ),
    ];
    asked = [];
    const client = new SearchClient(http, 'http://finder.org/d');
    expect(await client.search('honey & hives', 5)).toEqual([
      { url: 'http://one.org/x?a=1&b=2', title: 'One & all', summary: 's' },
      { url: 'http://two.org/', title: 'Two', summary: '' },
    ]);
    await client.search('wax', 1);
    expect(asked).toEqual(['/d', '/a?q=honey%20%26%20hives&n=5&p=1&l=', '/a?q=wax&n=1&p=1&l=']);
  });

  it('takes an answer of one entry, and of none', async () => {
    answers['/d'] = [
      200,
      describes('<Url type="application/atom+xml" template="http://finder.org/a?q={searchTerms}"/>'),
    ];
    answers['/a'] = [200, feed('<entry><title>One</title><link href="http://one.org/"/></entry>')];
    expect(await search('/d')).toHaveLength(1);
    answers['/a'] = [200, feed('')];
    expect(await search('/d')).toEqual([]);
  });

  it.each([
    ['no description', '/none', /answered 404/],
    ['a description without Atom', '/html', /does not describe/],
    ['a page instead of a description', '/page', /does not describe|no XML/],
    ['a feed that is none', '/bad-feed', /no Atom feed|no XML/],
    ['a server that fails', '/failing', /answered 500/],
  ])('says so: %s', async (_what, path, message) => {
    answers['/html'] = [200, describes('<Url type="text/html" template="http://finder.org/h?q={searchTerms}"/>')];
    answers['/page'] = [200, '<!doctype html><title>Hello</title><p>No search here<br>'];
    answers['/bad-feed'] = [
      200,
      describes('<Url type="application/atom+xml" template="http://finder.org/text?q={searchTerms}"/>'),
    ];
    answers['/text'] = [200, 'just words'];
    answers['/failing'] = [
      200,
      describes('<Url type="application/atom+xml" template="http://finder.org/500?q={searchTerms}"/>'),
    ];
    answers['/500'] = [500, ''];
    await expect(search(path)).rejects.toThrow(message);
  });

  it('does not resolve entities that would grow without end', async () => {
    const bomb = `<!DOCTYPE x [<!ENTITY a "${'b'.repeat(50)}">${Array.from({ length: 12 }, (_, i) => `<!ENTITY a${i} "${`&a${i === 0 ? '' : i - 1};`.repeat(10)}">`).join('')}]>`;
    answers['/d'] = [
      200,
      describes('<Url type="application/atom+xml" template="http://finder.org/a?q={searchTerms}"/>'),
    ];
    answers['/a'] = [200, `${bomb}${feed('<entry><title>&a11;</title><link href="http://one.org/"/></entry>')}`];
    expect(await search('/d')).toMatchObject([{ url: 'http://one.org/', title: '&a11;' }]);
  });
});
