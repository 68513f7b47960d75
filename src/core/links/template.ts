import { simhash } from './simhash';

/** Fewer words are left: nothing can be told by them. */
const LEAST_WORDS = 5;
/** Under so many a text is said again until it is long enough for a fingerprint: only the very same words then have the same one. */
const FULL_WORDS = 8;

/**
 * Fingerprint of a page without what differs between copies of one template: names, addresses and numbers. So pages of a network that were
 * filled in from one form are near-identical.
 *
 * @param names labels of sites that the page may name: its own and those it links to.
 * @returns as `simhash`; null: too little is left.
 */
export function templatePrint(text: string, names: readonly string[] = []): string | null {
  const said = text.toLowerCase();
  const met = names.filter((name) => said.includes(name.split('.')[0].toLowerCase()));
  if (met.length > 0) return printOf(text, met);
  // pages of a network are the same again and again
  if (text !== lastText) [lastText, lastPrint] = [text, printOf(text, [])];
  return lastPrint;
}

let lastText = '';
let lastPrint: string | null = null;

function printOf(text: string, names: readonly string[]): string | null {
  const labels = new Set(names.flatMap((name) => [name, name.split('.')[0]]).map(plain));
  const words = text
    .replace(/\bhttps?:\/\/\S+|\b[\w-]+(?:\.[\w-]+)*\.[a-z]{2,}\b/gi, ' ')
    .split(/[^\p{L}\p{M}\p{N}'’-]+/u)
    .filter((word) => word !== '' && !/\p{N}/u.test(word));
  const kept = words.filter((word) => !/^\p{Lu}/u.test(word) && !labels.has(plain(word)));
  if (kept.length < LEAST_WORDS) return null;
  return simhash((kept.length < FULL_WORDS ? [...kept, ...kept] : kept).join(' '));
}

const plain = (word: string) => word.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
