import fc from 'fast-check';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { describe, expect, it } from 'vitest';
import { atomFeed } from './atom';

const feed = {
  id: 'urn:jam-ladle:sieve:1',
  title: 'New in "Bees & hives"',
  self: 'http://127.0.0.1:4310/api/v1/sieves/1/feed',
  link: 'http://127.0.0.1:4310/pool?c=name:word=bee&sort=age:up',
  updated: Date.UTC(2026, 10, 20, 6),
  entries: [],
};
const parser = new XMLParser({ ignoreAttributes: false, parseTagValue: false, htmlEntities: true });

describe('atomFeed', () => {
  it('has what RFC 4287 asks for', () => {
    const entry = {
      id: 'urn:x:1',
      title: 'ossenmerebeeclub.org',
      link: 'http://127.0.0.1/',
      updated: 0,
      summary: '<b>',
    };
    const { feed: read } = parser.parse(atomFeed({ ...feed, entries: [entry] }));
    expect(read).toMatchObject({
      id: feed.id,
      title: feed.title,
      updated: '2026-11-20T06:00:00.000Z',
      author: { name: 'Jam Ladle' },
      entry: { id: 'urn:x:1', title: entry.title, summary: '<b>', updated: '1970-01-01T00:00:00.000Z' },
    });
    expect(read['@_xmlns']).toBe('http://www.w3.org/2005/Atom');
    expect(read.link[1]['@_href']).toBe(feed.link);
  });

  it('is well-formed whatever a name holds', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (title) => {
        expect(XMLValidator.validate(atomFeed({ ...feed, title }))).toBe(true);
      }),
    );
  });
});
