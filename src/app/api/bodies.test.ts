import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { buffer, text } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import { gzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { bytesOf, fileOf, formOf, jsonOf, linesOf, MOST_JSON_BYTES, textOf, within } from './bodies';

const MB = 2 ** 20;
const ask = (body: BodyInit | null, headers: Record<string, string> = {}) =>
  new Request('http://127.0.0.1:4310/', { method: 'POST', body, headers, duplex: 'half' } as RequestInit);

/** A body that goes on for as long as somebody reads, and what was read of it. */
function endless(chunk = new Uint8Array(MB)) {
  const state = { read: 0, isLeft: false };
  const body = new ReadableStream<Uint8Array>(
    {
      pull(stream) {
        state.read += chunk.length;
        stream.enqueue(chunk);
      },
      cancel() {
        state.isLeft = true;
      },
    },
    { highWaterMark: 0 },
  );
  return { state, body };
}

describe('what is sent', () => {
  it('is read to its end where it is as large as it may be', async () => {
    expect((await bytesOf(ask('x'.repeat(MB)), MB, 'A list')).length).toBe(MB);
    expect(await textOf(ask('Bücher'), MB, 'A list')).toBe('Bücher');
    expect(await jsonOf(ask('{"a":[1]}'))).toEqual({ a: [1] });
    expect(await bytesOf(ask(null), MB, 'A list')).toHaveLength(0);
  });

  it('is refused by its length before a byte is read, and without one as soon as it is too much', async () => {
    const said = ask('small', { 'content-length': String(2 * MB) });
    await expect(bytesOf(said, MB, 'A list of sales')).rejects.toMatchObject({
      code: 'too-large',
      message: 'A list of sales may have 1 MB.',
    });
    const { state, body } = endless();
    await expect(jsonOf(ask(body))).rejects.toMatchObject({ code: 'too-large', advice: 'Send lists as a file.' });
    // and a little more, so that who sends it hears why
    expect(state.read).toBeLessThan(MOST_JSON_BYTES + 40 * MB);
    await expect.poll(() => state.isLeft).toBe(true);
  });

  it('that is no UTF-8, or no form, is said to be so', async () => {
    const latin = Buffer.from('B\xfccher', 'latin1');
    await expect(textOf(ask(latin), MB, 'A list')).rejects.toMatchObject({ code: 'makes-no-sense' });
    await expect(jsonOf(ask('{"a":'))).rejects.toBeInstanceOf(SyntaxError);
    await expect(formOf(ask('x', { 'content-type': 'image/png' }))).rejects.toMatchObject({ code: 'makes-no-sense' });
    const form = await formOf(ask('ids=1&ids=2', { 'content-type': 'application/x-www-form-urlencoded' }));
    expect(form.getAll('ids')).toEqual(['1', '2']);
  });
});

describe('lines', () => {
  const read = async (body: BodyInit, most = MB) => {
    const lines: string[] = [];
    for await (const line of linesOf(ask(body), most, 'A log', 'Send less.')) lines.push(line);
    return lines;
  };

  it('come one by one, plain or gzipped, whatever ends them', async () => {
    expect(await read('one\r\ntwo\n\nthree')).toEqual(['one', 'two', '', 'three']);
    expect(await read(gzipSync('one\ntwo\n'))).toEqual(['one', 'two']);
    expect(await read('')).toEqual([]);
    const long = Array.from({ length: 40_000 }, (_, n) => `line ${n}`);
    expect(await read(gzipSync(long.join('\n')))).toEqual(long);
    expect((await read(`${'x'.repeat(90_000)}\nnext`)).at(-1)).toBe('next');
  });

  it('of what is too large, packed or unpacked, or cut short, end with why', async () => {
    await expect(read('x'.repeat(MB + 1))).rejects.toMatchObject({ code: 'too-large' });
    await expect(read(endless().body)).rejects.toMatchObject({ code: 'too-large' });
    await expect(read(gzipSync('x\n'.repeat(3 * MB)))).rejects.toMatchObject({ message: 'A log may have 4 MB.' });
    const whole = gzipSync('one\ntwo\n'.repeat(1000));
    await expect(read(whole.subarray(0, -12))).rejects.toMatchObject({ code: 'makes-no-sense' });
  });
});

describe('a file', () => {
  it('is the body, or the first file of a form, and comes as it is sent', async () => {
    expect(await text((await fileOf(ask('a.org\nb.org'))) as Readable)).toBe('a.org\nb.org');
    expect(await fileOf(ask(null))).toBeNull();
    const form = new FormData();
    form.set('name', 'Drops');
    form.set('file', new File(['a.org\n'.repeat(50_000)], 'drops.csv'));
    const request = new Request('http://127.0.0.1/', { method: 'POST', body: form });
    expect(await buffer((await fileOf(request)) as Readable)).toHaveLength(300_000);
    const empty = new FormData();
    empty.set('name', 'Drops');
    expect(await fileOf(new Request('http://127.0.0.1/', { method: 'POST', body: empty }))).toBeNull();
  });

  it('of a form that is cut short, or has no end of parts, is not taken for whole', async () => {
    const type = 'multipart/form-data; boundary=part';
    const head = '--part\r\ncontent-disposition: form-data; name="file"; filename="drops.csv"\r\n\r\n';
    const cut = (await fileOf(ask(`${head}a.org\n`, { 'content-type': type }))) as Readable;
    await expect(text(cut)).rejects.toThrow();
    await expect(fileOf(ask('x', { 'content-type': 'multipart/form-data' }))).rejects.toMatchObject({
      code: 'makes-no-sense',
    });
  });

  it('is let into the folder as long as it is not too large and the disk has room', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'within-'));
    const send = (most: number, floor: number) =>
      pipeline(Readable.from([Buffer.alloc(MB), Buffer.alloc(MB)]), within(folder, most, floor), buffer);
    expect(await send(2 * MB, 0)).toHaveLength(2 * MB);
    await expect(send(2 * MB - 1, 0)).rejects.toMatchObject({ code: 'too-large' });
    await expect(send(9 * MB, Number.MAX_SAFE_INTEGER)).rejects.toMatchObject({ code: 'full' });
    expect(readdirSync(folder)).toEqual([]);
  });
});
