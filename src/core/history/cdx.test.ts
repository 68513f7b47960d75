import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readCdx } from './cdx';

const AT = [Date.UTC(2009, 9, 27, 20, 49, 54), Date.UTC(2014, 5, 8)];
const times = (text: string) => readCdx(text).captures.map(({ at }) => at);

/** As servers of such indexes answer by default. */
const LINES = `org,pellgatehives)/ 20140608000000 http://pellgatehives.org/ text/html 200 SHA1ABC 4120
org,pellgatehives)/ 20091027204954 http://www.pellgatehives.org:80/ text/html 301 SHA1DEF 512
`;

describe('answers of an index of captures', () => {
  it('are lines of fields, in order of time', () => {
    expect(readCdx(LINES)).toEqual({
      captures: [
        {
          at: AT[0],
          timestamp: '20091027204954',
          url: 'http://www.pellgatehives.org:80/',
          status: 301,
          mime: 'text/html',
        },
        { at: AT[1], timestamp: '20140608000000', url: 'http://pellgatehives.org/', status: 200, mime: 'text/html' },
      ],
      skipped: 0,
      isCdx: true,
    });
  });

  it('are files with a head, whatever order it gives', () => {
    expect(
      times(` CDX N b a m s k r M S V g
org,pellgatehives)/ 20140608000000 http://pellgatehives.org/ text/html 200 SHA - - 4120 88 a.warc.gz
`),
    ).toEqual([AT[1]]);
    const turned = readCdx(' CDX a b s g\nhttp://pellgatehives.org/ 20140608000000 404 a.warc.gz\n');
    expect(turned.captures).toMatchObject([{ at: AT[1], status: 404, mime: null }]);
    // a head alone: nothing was captured
    expect(readCdx(' CDX N b a m s k r V g\n')).toEqual({ captures: [], skipped: 0, isCdx: true });
  });

  it('are rows of JSON under their names, objects one a line, and CDXJ', () => {
    const rows = JSON.stringify([
      ['urlkey', 'timestamp', 'original', 'statuscode'],
      ['org,pellgatehives)/', '20140608000000', 'http://pellgatehives.org/', '200'],
      ['org,pellgatehives)/', 'soon', 'http://pellgatehives.org/', '200'],
    ]);
    expect(readCdx(rows)).toMatchObject({
      captures: [{ at: AT[1], status: 200, mime: null }],
      skipped: 1,
      isCdx: true,
    });
    const object = { url: 'http://pellgatehives.org/', mime: 'text/html', status: '200' };
    expect(times(`${JSON.stringify({ timestamp: '20140608000000', ...object })}\n`)).toEqual([AT[1]]);
    expect(times(`org,pellgatehives)/ 20091027204954 ${JSON.stringify(object)}\n`)).toEqual([AT[0]]);
    expect(readCdx('[]')).toEqual({ captures: [], skipped: 0, isCdx: true });
  });

  it('may cut their times from behind, and name days that there are', () => {
    const line = (timestamp: string) => `k ${timestamp} http://pellgatehives.org/ text/html 200\n`;
    expect(times(line('2014'))).toEqual([Date.UTC(2014, 0, 1)]);
    expect(times(line('201406'))).toEqual([Date.UTC(2014, 5, 1)]);
    for (const none of ['20140231000000', '20141301000000', '201', '20140608250000', '2014060800000'])
      expect(readCdx(line(none)), none).toMatchObject({ captures: [], skipped: 1, isCdx: false });
  });

  it('are not pages, errors or TimeMaps', () => {
    for (const text of [
      '<!doctype html><title>Parked</title><p>This domain may be for sale today',
      '{"error":"no such collection"}',
      '<http://a.org/>;rel="original",<http://b/1>;rel="memento";datetime="Tue, 20 Jun 2000 18:02:59 GMT"',
      '[{"a":1}]',
      '[["a","b"],["c","d"]]',
      '[broken',
      '',
    ])
      expect(readCdx(text), text).toMatchObject({ captures: [], isCdx: false });
  });

  it('lose no capture, however many there are and in whatever order', () => {
    const moment = fc.date({ min: new Date('1996-01-01'), max: new Date('2026-01-01'), noInvalidDate: true });
    fc.assert(
      fc.property(fc.array(moment, { maxLength: 40 }), (moments) => {
        const stamps = moments.map((one) => one.toISOString().replace(/\D/g, '').slice(0, 14));
        const text = stamps.map((stamp) => `k ${stamp} http://a.org/ text/html 200 D 1`).join('\n');
        expect(readCdx(text).captures.map(({ timestamp }) => timestamp)).toEqual([...stamps].sort());
      }),
    );
  });
});
