import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readStoredAnswer, readWarcHead } from './warc';

const bytes = (text: string) => Uint8Array.from(Buffer.from(text, 'latin1'));
const textOf = (body: Uint8Array | undefined) => Buffer.from(body ?? []).toString('latin1');

describe('heads of records', () => {
  it('are read with line ends of either kind, folded lines, and names in any case', () => {
    const lines = [
      'WARC/1.0',
      'WARC-Type: response',
      'warc-target-URI: <http://tarnhives.org/',
      '  guide>',
      'WARC-Date: 2012-03-04T05:06:07Z',
      'Content-Length: 120',
    ];
    const revisit = [
      'WARC-Refers-To-Target-URI: <http://tarnhives.org/>',
      'WARC-Refers-To-Date: 2011-01-01T00:00:00Z',
      'WARC-Payload-Digest: SHA1:ABC',
    ];
    expect(readWarcHead([...lines, ...revisit].join('\n'))).toMatchObject({
      digest: 'sha1:abc',
      refersTo: { uri: 'http://tarnhives.org/', at: Date.UTC(2011, 0, 1) },
    });
    for (const end of ['\r\n', '\n'])
      expect(readWarcHead(lines.join(end))).toEqual({
        digest: '',
        refersTo: null,
        type: 'response',
        uri: 'http://tarnhives.org/ guide',
        at: Date.UTC(2012, 2, 4, 5, 6, 7),
        length: 120,
      });
    expect(readWarcHead('WARC/1.1\r\nWARC-Type: warcinfo\r\nContent-Length: 0')).toMatchObject({ uri: '', at: null });
  });

  it('of something else are none', () => {
    for (const text of [
      '',
      'HTTP/1.1 200 OK',
      'WARC/1.0\r\nContent-Length: many',
      'WARC/1.0\r\nContent-Length: -1',
      'WARC/1.0',
    ])
      expect(readWarcHead(text), text).toBeNull();
  });
});

describe('stored answers', () => {
  it('have their status, headers and body', () => {
    const answer = readStoredAnswer(bytes('HTTP/1.1 301 Moved\r\nLocation: /new\r\nX: a\r\nX: b\r\n\r\n<p>Moved'));
    expect(answer).toMatchObject({ status: 301, headers: { location: '/new', x: 'a' } });
    expect(textOf(answer?.body)).toBe('<p>Moved');
    expect(readStoredAnswer(bytes('HTTP/1.0 200\n\nx'))?.status).toBe(200);
    for (const text of ['', 'no head', 'HTTP/1.1 OK\r\n\r\n', '<html>\n\n'])
      expect(readStoredAnswer(bytes(text)), text).toBeNull();
  });

  const chunked = (body: string) =>
    readStoredAnswer(bytes(`HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n${body}`));

  it('in chunks are put together, also where they were cut short or put together before', () => {
    expect(textOf(chunked('4\r\nBees\r\n7;x=1\r\n and wa\r\n1\r\nx\r\n0\r\n\r\n')?.body)).toBe('Bees and wax');
    expect(textOf(chunked('4\r\nBees\r\nff\r\n a')?.body)).toBe('Bees a');
    expect(textOf(chunked('<html>put together</html>')?.body)).toBe('<html>put together</html>');
  });

  it('however it was cut into chunks, a body is the same', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ minLength: 1, unit: 'binary-ascii' }), { maxLength: 6 }), (parts) => {
        const body = parts.map((part) => `${part.length.toString(16)}\r\n${part}\r\n`).join('');
        expect(textOf(chunked(`${body}0\r\n\r\n`)?.body)).toBe(parts.join(''));
      }),
    );
  });
});
