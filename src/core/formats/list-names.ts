import { plainDomain, type RegistrableDomain, registrableDomain } from '../names/domain';

/** What stands around a name that belongs to no name: marks of a list, quotes, brackets. */
const AROUND =
  /^(?:(?:\d{1,6}[.)]|[-*\u2022\u00b7+>#])\s+)?["'\u201c\u201d\u2018\u2019`<[(]*|["'\u201c\u201d\u2018\u2019`>\])]*[,;:!.]*$/g;
const BETWEEN = /[\s,;|\u00a0]+|\s\/\s/;
/** Words between names that are no name. */
const JOINING = /^(?:and|und|et|y|e|en|och|&|\+|\/|or|oder|ou)$/i;
/** Written so that nobody follows it by mistake. */
const DEFANGED = /\[\.\]|\(\.\)|\{\.\}|\[dot\]|\(dot\)/gi;
/** Characters that are not seen and belong to no name. */
const UNSEEN = /[\u200b-\u200f\u2060\ufeff\u00ad]/g;

/** The one name that a cell is, as a name, a host or an address; null: it is none, or more than that. */
export function nameOf(cell: string): RegistrableDomain | null {
  if (cell.includes('@')) return null;
  return plainDomain(cell) ?? (/\s/.test(cell.trim()) ? null : registrableDomain(cell));
}

/**
 * All names of a cell or a line: one alone, several parted by spaces, commas, bars or lines, and one or more before a note. What
 * stands behind the first word that is no name is a note, and names in it are not taken.
 *
 * @returns no names when the cell holds none.
 */
export function namesIn(cell: string): RegistrableDomain[] {
  const alone = nameOf(cell);
  if (alone) return [alone];
  const text = bareCell(cell)
    .replace(UNSEEN, '')
    .replace(DEFANGED, '.')
    .replace(/^(\*\.|[\p{L} ]{1,20}:\s+(?=\S))/u, '')
    .trim();
  const whole = nameOf(text.replace(AROUND, ''));
  if (whole) return [whole];
  const found: RegistrableDomain[] = [];
  for (const word of text.replace(/^(?:\d{1,6}[.)]|[-*\u2022\u00b7+>#])\s+/, '').split(BETWEEN)) {
    const bare = word.replace(AROUND, '');
    if (bare === '' || JOINING.test(bare)) continue;
    const name = nameOf(bare);
    if (!name) break;
    found.push(name);
  }
  return found;
}

/** A cell without what spreadsheets put around a text so that it stays one: `="0123"`, and an apostrophe before it. */
export function bareCell(cell: string): string {
  const text = cell.trim();
  const formula = /^="(.*)"$/s.exec(text);
  if (formula) return formula[1].replaceAll('""', '"').trim();
  return /^'[^']*$/.test(text) ? text.slice(1).trim() : text;
}

/** A name of its label and its TLD, as two columns give it; the TLD with or without its point. */
export function joinedName(label: string, tld: string): RegistrableDomain | null {
  const ending = tld.trim().replace(/^[.*]+/, '');
  const name = label.trim().replace(/\.$/, '');
  if (name === '' || ending === '') return null;
  // the label may have its ending already
  return name.toLowerCase().endsWith(`.${ending.toLowerCase()}`) ? nameOf(name) : nameOf(`${name}.${ending}`);
}
