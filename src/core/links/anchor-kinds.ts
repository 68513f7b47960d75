import { displayName } from '../names/domain';
import { sellingKind } from '../spam/selling';
import { singular } from '../topics/terms';
import type { AnchorKind } from './anchor-kind-names';

const GENERIC_ANCHORS =
  /^(|click here|here|more|read more|link|website|site|home|homepage|visit|visit (the )?(site|website)|www|source|this)$/i;
const ADDRESS = /^(https?:|www\.)|^[a-z0-9-]+(\.[a-z0-9-]+)*\.[a-z]{2,}(\/\S*)?$/i;
const FOREIGN_SCRIPT =
  /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Hangul}\p{Script=Cyrillic}\p{Script=Arabic}\p{Script=Thai}]/u;
const LEAST_NAME = 4;

/**
 * Tells what the words of a link are. The first that fits counts, in the order of what tells most: words that sell and another script
 * before the name, since "casino at the bee club" sells.
 *
 * @param name A-label form of the site that is linked.
 * @param subjectWords words that tell its subject, lower case.
 */
export function anchorKind(anchor: string, name: string, subjectWords: ReadonlySet<string> = NONE): AnchorKind {
  const text = anchor.trim();
  if (ADDRESS.test(text)) return 'address';
  if (FOREIGN_SCRIPT.test(text) && !FOREIGN_SCRIPT.test(displayName(name))) return 'other-script';
  if (sellingKind(text) !== null) return 'money';
  if (isName(text, name)) return 'name';
  if (GENERIC_ANCHORS.test(text)) return 'generic';
  const words = text.toLowerCase().match(/\p{L}+/gu) ?? [];
  return words.some((word) => subjectWords.has(singular(word))) ? 'subject' : 'other';
}
const NONE: ReadonlySet<string> = new Set();

/** Whether an anchor is the name of what it links to, an address, or the words that people put anywhere. */
export function isNaming(anchor: string, name: string): boolean {
  return GENERIC_ANCHORS.test(anchor) || /^(https?:|www\.)/i.test(anchor) || isName(anchor, name);
}

/** Whether an anchor says the label of a name, or a good part of it. */
function isName(anchor: string, name: string): boolean {
  const own = labelLetters(name);
  const said = lettersOf(anchor);
  return said.includes(own) || (said.length >= LEAST_NAME && own.includes(said));
}

let lastName = '';
let lastLetters = '';
/** Letters of the label of a name; the same name is asked for many anchors in turn. */
export function labelLetters(name: string): string {
  if (name !== lastName) {
    lastLetters = lettersOf(displayName(name).split('.')[0]);
    lastName = name;
  }
  return lastLetters;
}

/** Whether an anchor is an address, with or without its scheme. */
export function isAddress(anchor: string): boolean {
  return ADDRESS.test(anchor);
}

export function isGeneric(anchor: string): boolean {
  return GENERIC_ANCHORS.test(anchor);
}

export function lettersOf(text: string): string {
  return text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
}
