import { doubleMetaphone } from 'double-metaphone';

/** A way in which people who hear a name may write another. */
export interface SpellingRisk {
  kind: 'doubled' | 'silent' | 'sounds-alike' | 'number' | 'hyphen' | 'joint' | 'plural';
  /** What invites it, and what would be written. */
  why: string;
  /** The other label; null where it is not one. */
  label: string | null;
}

/** Letters that are said alike, and how the first may be written. */
const ALIKE: [written: RegExp, instead: string, why: string][] = [
  [/ph/, 'f', '"ph" is heard as "f"'],
  [/ck/, 'k', '"ck" is heard as "k"'],
  [/qu/, 'kw', '"qu" is heard as "kw"'],
  [/x/, 'cks', '"x" is heard as "cks"'],
  [/ie/, 'ei', '"ie" and "ei" are mixed up'],
  [/ei/, 'ie', '"ei" and "ie" are mixed up'],
  [/y$/, 'ie', 'a last "y" is heard as "ie"'],
  [/ough/, 'o', '"ough" is said in many ways'],
  [/our/, 'or', '"our" and "or" differ by country'],
  [/isation/, 'ization', '"isation" and "ization" differ by country'],
  [/ise$/, 'ize', '"ise" and "ize" differ by country'],
  [/tre$/, 'ter', '"tre" and "ter" differ by country'],
];
const SILENT = /^(kn|wr|gn|ps|wh)|mb$|gh|sch/;
const NUMBERS: Record<string, string> = { one: '1', two: '2', to: '2', four: '4', for: '4', ate: '8', eight: '8' };
const MOST_RISKS = 8;

/** Ways to misspell a name that was only heard. @param words of the split of its label. */
export function spellingRisks(label: string, words: readonly string[]): SpellingRisk[] {
  const risks: SpellingRisk[] = [];
  if (label.includes('-'))
    risks.push({ kind: 'hyphen', why: 'its hyphen is not heard', label: label.replaceAll('-', '') });
  words.forEach((word, n) => {
    const next = words[n + 1];
    if (next && word.at(-1) === next[0] && /[a-z]/.test(next[0]))
      risks.push({
        kind: 'joint',
        why: `"${word}" ends with the letter that "${next}" begins with`,
        label: label.replace(word + next, word + next.slice(1)),
      });
    if (/\d/.test(word)) risks.push({ kind: 'number', why: `"${word}" may be written as a word`, label: null });
    else if (NUMBERS[word])
      risks.push({
        kind: 'number',
        why: `"${word}" may be written ${NUMBERS[word]}`,
        label: label.replace(word, NUMBERS[word]),
      });
    if (SILENT.test(word)) {
      const [letters] = SILENT.exec(word) ?? [''];
      risks.push({ kind: 'silent', why: `not every letter of "${letters}" in "${word}" is heard`, label: null });
    }
    for (const [written, instead, why] of ALIKE)
      if (written.test(word))
        risks.push({ kind: 'sounds-alike', why, label: label.replace(word, word.replace(written, instead)) });
    const doubled = /([bdfglmnprt])\1/.exec(word);
    if (doubled)
      risks.push({
        kind: 'doubled',
        why: `"${word}" has "${doubled[0]}"`,
        label: label.replace(word, word.replace(doubled[0], doubled[1])),
      });
  });
  return risks.filter(({ label: other }) => other !== label).slice(0, MOST_RISKS);
}

/** The label with its last word in the other number; null where it has none. */
export function pluralTwin(label: string, words: readonly string[]): string | null {
  const last = words.at(-1);
  if (last === undefined || !/^[a-z]{3,}$/.test(last) || !label.endsWith(last)) return null;
  const head = label.slice(0, label.length - last.length);
  if (/[^aeious]s$/.test(last) || /es$/.test(last)) {
    if (/[^aeiou]ies$/.test(last)) return `${head}${last.slice(0, -3)}y`;
    return `${head}${/(?:[sxz]|[cs]h)es$/.test(last) ? last.slice(0, -2) : last.slice(0, -1)}`;
  }
  if (/s$/.test(last)) return null;
  if (/[^aeiou]y$/.test(last)) return `${head}${last.slice(0, -1)}ies`;
  return `${head}${last}${/(?:[sxz]|[cs]h)$/.test(last) ? 'es' : 's'}`;
}

/** How alike two names are to eye and ear. */
export interface Likeness {
  /** 0 to 1. */
  score: number;
  why: string;
}

/**
 * Compares a name with a trademark: the same letters, letters of the mark within the name as words of it, the same sound (Double Metaphone,
 * Philips 2000), or few letters between them (Damerau 1964).
 *
 * @param words of the split of the name.
 */
export function likeness(label: string, words: readonly string[], mark: string): Likeness | null {
  const own = lettersOf(label);
  const other = lettersOf(mark);
  if (other.length < 3 || own.length < 3) return null;
  if (own === other) return { score: 1, why: 'the same letters' };
  const joined = words.map(lettersOf);
  const markWords = mark
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word.length > 0);
  for (let from = 0; from < joined.length; from++)
    for (let to = from + 1; to <= joined.length; to++)
      if (joined.slice(from, to).join('') === other)
        return {
          score: 0.9,
          why:
            to - from === joined.length
              ? 'the same words'
              : `"${mark}" stands in it as ${to - from === 1 ? 'a word' : 'words'}`,
        };
  const [sound, second] = doubleMetaphone(own);
  const [markSound, markSecond] = doubleMetaphone(other);
  if (sound.length >= 3 && [markSound, markSecond].some((code) => code === sound || code === second))
    return { score: 0.85, why: 'it sounds the same' };
  for (const word of words) {
    if (word.length < 4 || markWords.length !== 1) continue;
    const [wordSound] = doubleMetaphone(word);
    if (wordSound.length >= 3 && wordSound === markSound) return { score: 0.7, why: `"${word}" in it sounds the same` };
  }
  const distance = editDistance(own, other);
  const near = 1 - distance / Math.max(own.length, other.length);
  return near >= 0.8
    ? { score: Math.round(near * 80) / 100, why: `${distance === 1 ? 'one letter' : `${distance} letters`} apart` }
    : null;
}

const lettersOf = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');

/** Insertions, deletions, changes and swaps of neighbours that make one text of the other (Damerau 1964, restricted). */
export function editDistance(a: string, b: string): number {
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, n) => n);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      row[j] = Math.min(last[j] + 1, row[j - 1] + 1, last[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        row[j] = Math.min(row[j], before[j - 2] + 1);
    }
    before = last;
    last = row;
  }
  return last[b.length];
}
