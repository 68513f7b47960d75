/** An address of the old site as rules see it: path with query, without host and fragment. Of a capture, what was captured (RFC 7089 calls it the original). */
export function pathOf(given: string): string | null {
  // archives put the whole address after their own
  const original = /^https?:\/\/[^/]+\/(?:[^?]*?\/)?(https?:\/\/.+)$/.exec(given)?.[1];
  const address = original ?? given;
  try {
    const url = new URL(address.includes('://') ? address : `http://${address}`);
    return `${url.pathname}${url.search}`;
  } catch {
    return null;
  }
}

const STOP = new Set(
  'a an and are as at be by for from in index is it of on or page the to html htm php asp aspx www http https'.split(
    ' ',
  ),
);

/** Words of an address, a title or an anchor: lower case, without what every page has; letters and digits parted. */
export function wordsOfText(text: string): string[] {
  let plain = text;
  try {
    plain = decodeURIComponent(text);
  } catch {
    // it is no escape; it stays as it is
  }
  return plain
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .split(/[^\p{L}\p{N}]+/u)
    .flatMap((word) => word.match(/\p{L}+|\p{N}+/gu) ?? [])
    .filter((word) => word.length > 1 && !STOP.has(word))
    .map(stem);
}

/** Plural and singular of a word as one. */
function stem(word: string): string {
  if (word.length > 4 && word.endsWith('ies')) return `${word.slice(0, -3)}y`;
  if (word.length > 3 && word.endsWith('s') && !word.endsWith('ss')) return word.slice(0, -1);
  return word;
}
