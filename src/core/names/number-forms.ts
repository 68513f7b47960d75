/** Singular and plural of nouns that go by no rule; the same for what they end compounds with. */
const IRREGULAR =
  pairs(`knife knives wife wives life lives leaf leaves wolf wolves shelf shelves half halves calf calves loaf loaves thief thieves
  scarf scarves hoof hooves elf elves tooth teeth foot feet goose geese man men woman women mouse mice louse lice child children ox oxen person people
  penny pence die dice potato potatoes tomato tomatoes hero heroes echo echoes tornado tornadoes volcano volcanoes mango mangoes cargo cargoes
  mosquito mosquitoes buffalo buffaloes domino dominoes torpedo torpedoes crisis crises thesis theses analysis analyses basis bases oasis oases
  axis axes diagnosis diagnoses hypothesis hypotheses synthesis syntheses criterion criteria phenomenon phenomena cactus cacti fungus fungi
  nucleus nuclei radius radii alumnus alumni stimulus stimuli medium media bacterium bacteria datum data curriculum curricula stratum strata
  index indices matrix matrices vertex vertices appendix appendices antenna antennae formula formulae vertebra vertebrae larva larvae
  axe axes gas gases lens lenses iris irises bus buses plus pluses canvas canvases bias biases alias aliases atlas atlases virus viruses quiz quizzes`);
/** Compounds that end so are made plural as these are: firemen, grandchildren. */
const TAILS = ['man', 'wife', 'child', 'tooth', 'foot', 'knife', 'leaf', 'shelf', 'mouse', 'person', 'life', 'wolf'];
const NO_TAILS = new Set('human german roman shaman ottoman talisman norman cayman caiman brahman afghan'.split(' '));
/** Words that end as plurals do and are none, or are the same in both. */
const NO_PLURALS = new Set(
  `news physics mathematics athletics economics politics christmas tennis series species sheep deer fish trout salmon aircraft bison moose swiss
  lens gas iris bus plus canvas bias alias atlas yes this his hers thus always across perhaps towards besides texas kansas paris kudos chaos cosmos
  ethos logos pathos rhinoceros asbestos molasses pancreas`.split(/\s+/),
);

/**
 * Other forms of a noun that count as the same word: singular for plural and the other way round, in English.
 *
 * @returns the word and what it may be, all of them lower case.
 */
export function numberForms(word: string): string[] {
  const forms = new Set([word]);
  if (word.length < 3) return [word];
  const irregular = irregularForms(word);
  if (irregular) return [word, ...irregular];
  if (NO_PLURALS.has(word)) return [word];
  const isPlural = /[^s]s$/.test(word) && !/(?:us|is)$/.test(word);
  if (isPlural) {
    forms.add(word.slice(0, -1));
    if (/[^aeiou]ies$/.test(word) && word.length > 4) forms.add(`${word.slice(0, -3)}y`);
    if (/(?:[sxz]|[cs]h)es$/.test(word)) forms.add(word.slice(0, -2));
  } else if (/[^aeiou]y$/.test(word)) forms.add(`${word.slice(0, -1)}ies`);
  else forms.add(/(?:[sxz]|[cs]h)$/.test(word) ? `${word}es` : `${word}s`);
  // the plural of len is no word that stands by itself
  return [...forms].filter((form) => form === word || !NO_PLURALS.has(form));
}

/** Null for a noun that goes by the rules. */
function irregularForms(word: string): string[] | null {
  const known = IRREGULAR.get(word);
  if (known) return known;
  if (NO_TAILS.has(word)) return null;
  for (const tail of TAILS)
    for (const form of [tail, ...(IRREGULAR.get(tail) ?? [])])
      if (word.length > form.length + 2 && word.endsWith(form))
        return (IRREGULAR.get(form) ?? []).map((other) => word.slice(0, -form.length) + other);
  return null;
}

function pairs(text: string): Map<string, string[]> {
  const forms = new Map<string, string[]>();
  const words = text.split(/\s+/);
  for (let n = 0; n < words.length; n += 2) {
    const [one, many] = [words[n], words[n + 1]];
    forms.set(one, [...(forms.get(one) ?? []), many]);
    forms.set(many, [...(forms.get(many) ?? []), one]);
  }
  return forms;
}
