/** Endings of words that came from Latin and Greek, with what English makes of them. */
const ENDINGS: [string, string][] = [
  ['ografia', 'ography'], ['ografie', 'ography'], ['ographie', 'ography'], ['logia', 'logy'], ['logie', 'logy'],
  ['zione', 'tion'], ['cion', 'tion'], ['tatie', 'tation'], ['tie', 'tion'], ['sione', 'sion'],
  ['ita', 'ity'], ['ite', 'ity'], ['itat', 'ity'], ['iteit', 'ity'], ['dad', 'ty'], ['tat', 'ty'],
  ['ique', 'ic'], ['isch', 'ic'], ['ico', 'ic'], ['ica', 'ics'], ['ik', 'ics'], ['iek', 'ics'],
  ['ie', 'y'], ['ia', 'y'], ['mento', 'ment'], ['eur', 'or'], ['eur', 'er'], ['ore', 'or'], ['ador', 'ator'],
  ['iste', 'ist'], ['ista', 'ist'], ['o', 'e'], ['a', 'e'], ['e', ''], ['o', ''], ['a', ''], ['en', ''],
]; // biome-ignore format: pairs side by side

/** English spellings that a word of another language may have, the likeliest first. */
export function englishOf(word: string): string[] {
  const spellings = [word];
  for (const [ending, english] of ENDINGS)
    if (word.endsWith(ending)) spellings.push(word.slice(0, -ending.length) + english);
  for (const spelling of [...spellings]) if (spelling.includes('k')) spellings.push(spelling.replace(/k/g, 'c'));
  return [...new Set(spellings)].filter((spelling) => spelling.length >= 6);
}
