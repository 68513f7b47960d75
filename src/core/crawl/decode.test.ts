import { describe, expect, it } from 'vitest';
import { decodeHtml } from './decode';

const bytes = (text: string, encoding: BufferEncoding = 'utf8') => new Uint8Array(Buffer.from(text, encoding));

describe('decodeHtml', () => {
  it('takes the header before the meta element', () => {
    const page = bytes('<meta charset=utf-8>caf\xe9', 'latin1');
    expect(decodeHtml(page, 'iso-8859-1')).toMatchObject({ charset: 'windows-1252', basis: 'declared' });
    expect(decodeHtml(page, 'iso-8859-1').text).toContain('café');
  });
  it('takes the meta element where the header is silent', () => {
    const page = new Uint8Array([...bytes('<meta charset="windows-1251">'), 0xec, 0xb8, 0xe4]);
    expect(decodeHtml(page, null)).toMatchObject({ charset: 'windows-1251' });
    expect(decodeHtml(page, null).text).toContain('мёд');
  });
  it('does not believe a declared UTF-8 that the bytes refute', () => {
    const page = bytes('<meta charset=utf-8>caf\xe9', 'latin1');
    expect(decodeHtml(page, 'utf-8')).toMatchObject({ charset: 'windows-1252', basis: 'default' });
    expect(decodeHtml(page, 'utf-8').text).toContain('café');
  });
  it('finds undeclared UTF-8 by its validity', () => {
    expect(decodeHtml(bytes('<p>мёд'), null)).toMatchObject({ charset: 'utf-8', basis: 'valid-utf8' });
  });
  it('follows a byte order mark', () => {
    const page = new Uint8Array([0xff, 0xfe, ...bytes('<p>hive', 'utf16le')]);
    expect(decodeHtml(page, 'utf-8')).toMatchObject({ charset: 'utf-16le', text: '<p>hive' });
  });
  it('falls back when the label is unknown', () => {
    expect(decodeHtml(bytes('plain'), 'x-no-such').text).toBe('plain');
  });
});
