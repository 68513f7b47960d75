import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Charset, decoderOf, guessCharset } from './charset';

const TEXT = 'domain;price\ntarnhives.org;12 €\nwexcombe.co.uk;15 €\n';
const wide = (text: string, isBig: boolean) => {
  const bytes = Buffer.from(text, 'utf16le');
  return isBig ? bytes.swap16() : bytes;
};

/** A text in a set of single bytes, by what its decoder makes of each. */
function encoded(text: string, charset: Charset): Uint8Array {
  const decoder = new TextDecoder(charset);
  const codes = new Map(Array.from({ length: 256 }, (_, code) => [decoder.decode(Uint8Array.of(code)), code]));
  return Uint8Array.from([...text].map((letter) => codes.get(letter) ?? 63));
}

describe('the character set of a file', () => {
  it.each<[string, Uint8Array, Charset]>([
    ['UTF-8', Buffer.from(TEXT), 'utf-8'],
    ['UTF-16 with its mark', wide(`\ufeff${TEXT}`, false), 'utf-16le'],
    ['UTF-16 the other way round', wide(`\ufeff${TEXT}`, true), 'utf-16be'],
    ['UTF-16 without a mark', wide(TEXT, false), 'utf-16le'],
    ['the other way round without one', wide(TEXT, true), 'utf-16be'],
    ['windows-1252', Buffer.from(TEXT.replaceAll('€', '\u0080'), 'latin1'), 'windows-1252'],
  ])('%s is told, and its euro signs come through', (_, bytes, charset) => {
    expect(guessCharset(bytes, false)).toBe(charset);
    expect(decoderOf(charset).decode(bytes).replace('\ufeff', '')).toBe(TEXT);
  });

  it.each<[Charset, string]>([
    ['windows-1250', 'Domena;Cena;Stan\npszczoła.pl;150 zł;wolna\nżółw.pl;20 zł;sprzedana\nświeca.pl;9 zł;aukcja\n'],
    [
      'windows-1251',
      'Домен;Цена;Статус\nпчеловод.рф;1500 руб;свободен\nмёд.рф;200 руб;продаётся\nулей.рф;90 руб;аукцион\n',
    ],
  ])('%s is told by the letters of its language', (charset, text) => {
    const bytes = encoded(text, charset);
    expect(guessCharset(bytes, false)).toBe(charset);
    expect(decoderOf(charset).decode(bytes)).toBe(text);
  });

  it('is windows-1252 where the letters could be either', () => {
    for (const text of ['Domäne;Preis\nhöhle.de;20 Euro\n', 'Domaine;Prix\nforêt.fr;20\n', 'café.com\n'])
      expect([text, guessCharset(Buffer.from(text, 'latin1'), false)]).toEqual([text, 'windows-1252']);
  });

  it('is read in parts as it is as a whole', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), fc.nat(300), (bytes, cut) => {
        const whole = decoderOf('windows-1252').decode(bytes);
        const parts = decoderOf('windows-1252');
        expect(parts.decode(bytes.subarray(0, cut)) + parts.decode(bytes.subarray(cut))).toBe(whole);
        expect(whole).toHaveLength(bytes.length);
      }),
    );
  });
});
