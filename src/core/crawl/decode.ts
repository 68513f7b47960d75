import sniffEncoding from 'html-encoding-sniffer';

export interface DecodedText {
  text: string;
  /** Canonical name in the WHATWG encoding standard. */
  charset: string;
  /** What decided: byte order mark or header, meta element, UTF-8 that proved valid, or the default. */
  basis: 'declared' | 'valid-utf8' | 'default';
}

/**
 * Decodes a page's bytes: byte order mark, then the Content-Type charset, then a meta element in the first 1024 bytes
 * (the HTML standard's sniffing algorithm). Where the declared encoding is UTF-8 but the bytes are not, or nothing is
 * declared, the bytes decide: valid UTF-8 is UTF-8, anything else windows-1252.
 */
export function decodeHtml(bytes: Uint8Array, headerCharset: string | null): DecodedText {
  const declared = sniffEncoding(bytes, {
    transportLayerEncodingLabel: headerCharset ?? undefined,
    defaultEncoding: 'x-user-defined',
  });
  if (declared !== 'x-user-defined' && declared !== 'UTF-8') {
    const text = tryDecode(bytes, declared, false);
    if (text !== null) return { text, charset: declared.toLowerCase(), basis: 'declared' };
  }
  const utf8 = tryDecode(bytes, 'utf-8', true);
  if (utf8 !== null) return { text: utf8, charset: 'utf-8', basis: declared === 'UTF-8' ? 'declared' : 'valid-utf8' };
  return { text: new TextDecoder('windows-1252').decode(bytes), charset: 'windows-1252', basis: 'default' };
}

function tryDecode(bytes: Uint8Array, encoding: string, fatal: boolean): string | null {
  try {
    return new TextDecoder(encoding, { fatal }).decode(bytes);
  } catch {
    return null;
  }
}
