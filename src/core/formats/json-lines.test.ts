import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { JsonLinesReader, jsonKeys, looksLikeJsonLines } from './json-lines';

function read(chunks: string[], keys: string[], most?: number) {
  const rows: [number, string[]][] = [];
  const problems: [number, string][] = [];
  const reader = new JsonLinesReader(
    ({ line, fields }) => rows.push([line, fields]),
    ({ line, reason }) => problems.push([line, reason]),
    keys,
    most,
  );
  for (const chunk of chunks) reader.write(chunk);
  reader.end();
  return { rows, problems };
}

describe('JSON Lines', () => {
  it('gives the values of an object in the order of the keys', () => {
    const text = '{"name":"a.org","price":12,"tags":["x"]}\r\n\n{"price":null,"name":"b.org"}';
    expect(jsonKeys(text)).toEqual(['name', 'price', 'tags']);
    expect(read([text], ['name', 'price', 'tags']).rows).toEqual([
      [1, ['a.org', '12', '["x"]']],
      [3, ['b.org', '', '']],
    ]);
  });

  it('sets aside what is no object, with its line', () => {
    expect(read(['[1]\n{"a":\n"x"\n{"a":1}\n'], ['a'])).toEqual({
      rows: [[4, ['1']]],
      problems: [1, 2, 3].map((line) => [line, 'the line is no JSON object']),
    });
  });

  it('tells it from other texts', () => {
    expect(looksLikeJsonLines('\ufeff\n{"a":1}\n')).toBe(true);
    expect(looksLikeJsonLines('{not json}\na.org')).toBe(false);
    expect(looksLikeJsonLines('a.org\n{"a":1}')).toBe(false);
  });

  it('drops a line that is too long and goes on with the next', () => {
    const long = `{"a":"${'x'.repeat(500)}"}\n`;
    const { rows, problems } = read([long.slice(0, 200), long.slice(200), '{"a":2}\n'], ['a'], 100);
    expect(rows).toEqual([[2, ['2']]]);
    expect(problems).toEqual([[1, 'the line is longer than 100 characters']]);
  });

  it('loses no line, wherever the chunks end', () => {
    const line = fc.oneof(
      fc.json().map((json) => json.replace(/\n/g, ' ')),
      fc.string(),
      fc.constant('{"a":1}'),
    );
    fc.assert(
      fc.property(fc.array(line), fc.array(fc.nat(200)), (lines, cuts) => {
        const text = lines.map((one) => one.replace(/[\n\ufeff]/g, '')).join('\n');
        const places = [...new Set(cuts.map((cut) => cut % (text.length + 1)))].sort((a, b) => a - b);
        const chunks = [0, ...places].map((at, i) => text.slice(at, places[i] ?? text.length));
        const whole = read([text], ['a']);
        expect(read(chunks, ['a'])).toEqual(whole);
        const told = text.split('\n').filter((one) => one.trim() !== '').length;
        expect(whole.rows.length + whole.problems.length).toBe(told);
      }),
    );
  });
});
