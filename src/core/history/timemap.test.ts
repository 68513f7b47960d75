import { describe, expect, it } from 'vitest';
import { parseLinkFormat } from '../formats/link-format';
import { readTimeMap, summarizePast } from './timemap';

// After the example of RFC 7089 section 5.1.
const SAMPLE = `<http://hives.example.org/>;rel="original",
 <http://archive.example.net/timemap/http://hives.example.org/>
 ; rel="self";type="application/link-format"; from="Tue, 20 Jun 2000 18:02:59 GMT",
 <http://archive.example.net/web/20000620180259/http://hives.example.org/>
 ; rel="first memento";datetime="Tue, 20 Jun 2000 18:02:59 GMT"
 ; license="http://example.org/a,b;c",
 <http://archive.example.net/web/20091027204954/http://hives.example.org/>
 ; rel="last memento";datetime="Tue, 27 Oct 2009 20:49:54 GMT"`;

describe('parseLinkFormat', () => {
  it('keeps commas and semicolons inside quotes', () => {
    const { entries, skipped } = parseLinkFormat(SAMPLE);
    expect(entries).toHaveLength(4);
    expect(entries[2].parameters.license).toBe('http://example.org/a,b;c');
    expect(skipped).toBe(0);
  });
  it('counts what it cannot read and goes on', () => {
    const { entries, skipped } = parseLinkFormat('rubbish, <http://a.org/>; rel=memento, <http://broken');
    expect(entries).toHaveLength(1);
    expect(skipped).toBe(2);
  });
});

describe('readTimeMap', () => {
  it('takes mementos with their time, oldest first', () => {
    expect(readTimeMap(SAMPLE).mementos.map((memento) => new Date(memento.at).toISOString())).toEqual([
      '2000-06-20T18:02:59.000Z',
      '2009-10-27T20:49:54.000Z',
    ]);
  });
  it('sets aside a memento whose time cannot be read', () => {
    expect(readTimeMap('<http://a.org/>;rel="memento";datetime="soon"')).toMatchObject({ mementos: [], skipped: 1 });
  });
});

describe('summarizePast', () => {
  it('finds the first and last capture and counts by year', () => {
    const past = summarizePast([Date.UTC(2009, 5), Date.UTC(2004, 1), Date.UTC(2009, 1)]);
    expect(past).toMatchObject({ firstSeenAt: Date.UTC(2004, 1), lastSeenAt: Date.UTC(2009, 5), captures: 3 });
    expect(past?.byYear).toEqual([
      { year: 2004, captures: 1 },
      { year: 2009, captures: 2 },
    ]);
  });
  it('knows nothing from nothing', () => {
    expect(summarizePast([])).toBeNull();
  });
});
