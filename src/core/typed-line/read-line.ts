import type { ChoiceCondition, RangeCondition, SievePart, Sort, TextCondition, TextMode } from '../pool/conditions';
import {
  type ChoiceFact,
  type FactName,
  factSpec,
  type MemberFact,
  type NumberFact,
  SORT_FACTS,
  type TimeFact,
} from '../pool/facts';
import { SPAM_FROM } from '../spam/threshold';
import { type Token, tokensOf } from './tokens';
import { bareOf, FILLERS, LISTINGS, MEASURES, type Measure, STATUSES, SUPERLATIVES, WORDY_TLDS } from './words';

/** What can be said that the language itself does not know. */
export interface LineVocabulary {
  /** Whether it is a TLD, without its dot, in lower case. */
  isTld(text: string): boolean;
  /** Subjects by their titles; which one a word speaks of, null: none. */
  subjectOf(words: string): string | null;
  languages: readonly { code: string; name: string }[];
  venues: readonly string[];
  tags: readonly { id: number; name: string }[];
  sources: readonly { id: number; name: string }[];
  /** The person's own, ISO 4217, in which prices are compared. */
  currency: string;
  /** ms since 1970. */
  now: number;
}

/** A condition with the words it comes from: from `start`, before `end`, in UTF-16 units of the line. */
export interface ReadPart {
  part: SievePart;
  start: number;
  end: number;
}

export interface LineProblem {
  text: string;
  start: number;
  end: number;
  /** Why, where it is more than a word that is not known. */
  reason: string | null;
}

export interface ReadLine {
  parts: ReadPart[];
  sorts: Sort[];
  /** What was not understood. */
  unknown: LineProblem[];
}

const MONEY_SIGNS: Readonly<Record<string, string>> = { '€': 'EUR', $: 'USD', '£': 'GBP' };
const CURRENCIES = new Set(
  'aud bgn brl cad chf cny czk dkk eur gbp hkd huf inr isk jpy krw nok nzd pln ron sek sgd try uah usd zar'.split(' '),
);
const CURRENCY_WORDS: Readonly<Record<string, string>> = {
  euro: 'EUR', euros: 'EUR', dollar: 'USD', dollars: 'USD', pound: 'GBP', pounds: 'GBP', bucks: 'USD',
}; // biome-ignore format: one line
const AT_LEAST = new Set('over above atleast min minimum from >= > beyond'.split(' '));
const AT_MOST = new Set('under below max maximum <= < within upto until'.split(' '));
const NOT = new Set(['not', 'no', 'without', 'non', 'never', 'except', 'excluding', '!']);
const TIMES: Readonly<Record<string, number>> = {
  hour: 1, hours: 1, h: 1, day: 24, days: 24, d: 24, week: 168, weeks: 168, month: 730, months: 730,
}; // biome-ignore format: one line
const COMING: Readonly<Record<string, 'closing' | 'drop' | 'expires'>> = {
  closing: 'closing', closes: 'closing', ending: 'closing', ends: 'closing',
  dropping: 'drop', drops: 'drop', drop: 'drop', deleting: 'drop',
  expiring: 'expires', expires: 'expires', expiry: 'expires',
}; // biome-ignore format: a fact a line
const TEXT_LEADS: readonly [words: string, mode: TextMode][] = [
  ['name contains', 'contains'], ['contains', 'contains'], ['containing', 'contains'], ['includes', 'contains'], ['including', 'contains'],
  ['name starts with', 'starts'], ['starts with', 'starts'], ['starting with', 'starts'], ['beginning with', 'starts'], ['begins with', 'starts'],
  ['name ends with', 'ends'], ['ends with', 'ends'], ['ends in', 'ends'], ['ending with', 'ends'], ['ending in', 'ends'],
  ['with the word', 'wordish'], ['has the word', 'wordish'], ['the word', 'wordish'], ['with the words', 'wordish'],
]; // biome-ignore format: a mode a line
const YEAR_MS = 365.2425 * 86_400_000;
const MEASURES_BY_LENGTH = byLength(MEASURES, ({ words }) => words);
const STATUSES_BY_LENGTH = byLength(STATUSES, ([words]) => words);
const LISTINGS_BY_LENGTH = byLength(LISTINGS, ([words]) => words);
const TEXT_LEADS_BY_LENGTH = byLength(TEXT_LEADS, ([words]) => words);

function byLength<T>(all: readonly T[], wordsOf: (one: T) => string): { words: string[]; value: T }[] {
  return all
    .map((value) => ({ words: wordsOf(value).split(' '), value }))
    .sort((a, b) => b.words.length - a.words.length);
}

/**
 * Reads a line as people type it, "free org over 10 years, 20+ referring domains, about bees, under 50 EUR", as conditions of a sieve. What
 * is not understood is told with its place, and nothing is guessed for it.
 *
 * @param text at most 1,000 UTF-16 units are read.
 */
export function readLine(text: string, vocabulary: LineVocabulary): ReadLine {
  return new LineReader(text.slice(0, MOST_CHARS), vocabulary).read();
}

const MOST_CHARS = 1000;

class LineReader {
  private readonly tokens: Token[];
  private readonly parts: ReadPart[] = [];
  private readonly sorts: Sort[] = [];
  private readonly unknown: LineProblem[] = [];
  private at = 0;

  constructor(
    private readonly text: string,
    private readonly vocabulary: LineVocabulary,
  ) {
    this.tokens = tokensOf(text);
  }

  read(): ReadLine {
    while (this.here.kind !== 'end') {
      const from = this.at;
      if (this.sort() || this.condition()) continue;
      this.at = from;
      this.skipOrTell();
    }
    return { parts: this.parts, sorts: this.sorts, unknown: this.unknown };
  }

  private get here(): Token {
    return this.tokens[this.at];
  }
  private peek(ahead: number): Token {
    return this.tokens[Math.min(this.at + ahead, this.tokens.length - 1)];
  }

  /** Whether these words stand next; they are stepped over. */
  private takes(words: readonly string[]): boolean {
    if (words.some((word, n) => this.peek(n).kind !== 'word' || this.peek(n).text !== word)) return false;
    this.at += words.length;
    return true;
  }
  private takesOne<T>(all: readonly { words: string[]; value: T }[]): T | null {
    for (const { words, value } of all) if (this.takes(words)) return value;
    return null;
  }
  private takesSign(...signs: string[]): boolean {
    if (this.here.kind !== 'sign' || !signs.includes(this.here.text)) return false;
    this.at++;
    return true;
  }

  private put(part: SievePart, from: number): true {
    const [start, end] = [this.tokens[from].start, this.tokens[this.at - 1].end];
    const before = this.parts.at(-1);
    // a name cannot have two TLDs: those that follow each other are a choice
    const isNext = before && !this.unknown.some(({ start: told }) => told >= before.end);
    const merged = isNext && mergeChoices(before.part, part);
    if (merged) this.parts[this.parts.length - 1] = { part: merged, start: before.start, end };
    else this.parts.push({ part, start, end });
    return true;
  }

  private sort(): boolean {
    const from = this.at;
    for (const [words, [fact, descending]] of Object.entries(SUPERLATIVES)) {
      this.at = from;
      if (!this.takes(words.split(' '))) continue;
      this.takes(['first']);
      this.sorts.push({ fact, descending });
      return true;
    }
    this.at = from;
    const isSaid = this.takes(['sorted', 'by']) || this.takes(['sort', 'by']) || this.takes(['ordered', 'by']) || this.takes(['order', 'by']); // biome-ignore format: one line
    if (!isSaid && !this.takes(['by'])) return false;
    const fact = this.sortFact();
    if (fact === null) return false;
    const isUp =
      this.takes(['ascending']) || this.takes(['asc']) || this.takes(['up']) || this.takes(['lowest', 'first']);
    const isDown = !isUp && (this.takes(['descending']) || this.takes(['desc']) || this.takes(['down']) || this.takes(['highest', 'first'])); // biome-ignore format: one line
    this.sorts.push({ fact, descending: isDown || (!isUp && bareOf(fact) === 'min') });
    return true;
  }

  private sortFact(): FactName | null {
    const fact = this.takesOne(MEASURES_BY_LENGTH)?.fact ?? COMING[this.here.text] ?? null;
    if (fact === null) return null;
    if (COMING[this.here.text] === fact) this.at++;
    return SORT_FACTS.includes(fact) ? fact : null;
  }

  /** Rules of what is one of several, or none of them. */
  private readonly choices = [this.status, this.listing, this.tld, this.language, this.mark, this.venue, this.member];

  private condition(): boolean {
    const from = this.at;
    const isNot = (this.here.kind === 'word' || this.here.kind === 'sign') && NOT.has(this.here.text);
    if (isNot) this.at++;
    const after = this.at;
    const rules = isNot
      ? [this.none, this.textual, ...this.choices]
      : [
          this.textual,
          this.about,
          this.coming,
          this.since,
          this.figureFirst,
          this.measureFirst,
          ...this.choices,
          this.registrar,
          this.quoted,
        ];
    for (const rule of rules) {
      this.at = after;
      if (rule.call(this, from, isNot)) return true;
    }
    this.at = from;
    return false;
  }

  /** "no hyphens", "never dropped", "no spam". */
  private none(from: number): boolean {
    if (this.takes(['dropped'])) return this.put(range('drops', null, 0), from);
    const measure = this.takesOne(MEASURES_BY_LENGTH);
    if (measure === null) return false;
    const { fact } = measure;
    if (fact === 'spamRisk') return this.put(range(fact, null, SPAM_FROM - 1), from);
    const isCounted = factSpec(fact).whole === true && fact !== 'length';
    return isCounted && this.put(range(fact, null, 0), from);
  }

  /** "containing bee or hive", "ends in shop". */
  private textual(from: number, not: boolean): boolean {
    const mode = this.takesOne(TEXT_LEADS_BY_LENGTH)?.[1] ?? null;
    if (mode === null) return false;
    const values = this.either();
    return values.length > 0 && this.put(text(mode, values, not), from);
  }

  private quoted(from: number, not: boolean): boolean {
    if (this.here.kind !== 'quoted') return false;
    return this.put(text('contains', this.either(), not), from);
  }

  /** One word or more, parted by "or": `bee or hive`, `"bee" or "hive"`. */
  private either(): string[] {
    const values: string[] = [];
    do {
      if (this.here.kind !== 'word' && this.here.kind !== 'quoted' && this.here.kind !== 'number') break;
      values.push(this.here.text.replace(/\s+/g, ''));
      this.at++;
    } while (this.takes(['or']));
    return values;
  }

  /** "about bees": by the name or by what was there, as far as it is one of the subjects; and the word itself. */
  private about(from: number): boolean {
    if (!this.takes(['about']) && !this.takes(['on', 'the', 'subject', 'of']) && !this.takes(['subject'])) return false;
    const start = this.at;
    // as many words as speak of a subject together, else one
    for (let many = 4; many >= 1; many--) {
      const words = this.tokens.slice(start, start + many);
      if (words.length < many || words.some(({ kind }) => kind !== 'word')) continue;
      const phrase = words.map(({ text: word }) => word).join(' ');
      const subject = this.vocabulary.subjectOf(phrase);
      if (subject === null && many > 1) continue;
      this.at = start + many;
      const values = [phrase];
      while (this.peek(0).text === 'or' && this.peek(1).kind === 'word') {
        values.push(this.peek(1).text);
        this.at += 2;
      }
      const word = text('wordish', values, false);
      const subjects = [
        ...new Set(
          [subject, ...values.slice(1).map((one) => this.vocabulary.subjectOf(one))].filter((one) => one !== null),
        ),
      ];
      if (subjects.length === 0) return this.put(word, from);
      const parts: SievePart[] = [choice('nameSubject', subjects, false), choice('subject', subjects, false)];
      // a title is no word of a name
      if (!subjects.some((one) => one.toLowerCase() === phrase)) parts.unshift(word);
      return this.put({ type: 'group', mode: 'any', parts }, from);
    }
    return false;
  }

  /** "closing in 2 days", "drops this week", "expires within a month". */
  private coming(from: number): boolean {
    const fact = this.here.kind === 'word' ? COMING[this.here.text] : undefined;
    if (!fact) return false;
    this.at++;
    const hours = this.ahead();
    if (hours === null) return false;
    return this.put(range(fact, null, fact === 'closing' ? hours : round(hours / 24)), from);
  }

  /** How far ahead, in hours; null: not said. */
  private ahead(): number | null {
    if (this.takes(['today'])) return 24;
    if (this.takes(['tomorrow'])) return 48;
    if (this.takes(['this', 'week'])) return 168;
    if (this.takes(['this', 'month'])) return 730;
    if (this.takes(['soon'])) return 48;
    const isIn = ['within', 'in', 'under', 'next', 'the'].includes(this.here.text);
    while (['within', 'in', 'under', 'less', 'than', 'the', 'next'].includes(this.here.text)) this.at++;
    const { kind, value, text: word } = this.here;
    if (kind === 'number') this.at++;
    else if (word === 'a' || word === 'an') this.at++;
    else if (!isIn) return null;
    const unit = TIMES[this.here.text];
    if (unit === undefined) return null;
    this.at++;
    return (kind === 'number' ? value : 1) * unit;
  }

  /** "registered before 2010". */
  private since(from: number): boolean {
    const isFirstSeen = this.takes(['first', 'seen']) || this.takes(['first', 'captured']);
    if (!isFirstSeen && !this.takes(['registered']) && !this.takes(['created']) && !this.takes(['born'])) return false;
    const when = this.here.text;
    if (!['before', 'since', 'after', 'in'].includes(when)) return false;
    this.at++;
    const { kind, value } = this.here;
    if (kind !== 'number' || value < 1985 || value > 2100 || !Number.isInteger(value)) return false;
    this.at++;
    const years = (year: number) => Math.max(0, round((this.vocabulary.now - Date.UTC(year, 0, 1)) / YEAR_MS));
    const fact = isFirstSeen ? 'firstSeen' : 'age';
    if (when === 'before') return this.put(range(fact, years(value), null), from);
    if (when === 'in') return this.put(range(fact, years(value + 1), years(value)), from);
    return this.put(range(fact, null, years(when === 'after' ? value + 1 : value)), from);
  }

  /** "over 10 years", "20+ referring domains", "5 to 10 letters", "under 50 EUR", "€50". */
  private figureFirst(from: number): boolean {
    const said = this.figures();
    if (said === null) return false;
    // "5-letter"
    if (this.peek(0).text === '-' && this.peek(1).kind === 'word') this.at++;
    const currency = said.currency ?? this.currency();
    if (currency !== null) return this.price(from, said, currency);
    const measure = this.takesOne(MEASURES_BY_LENGTH);
    if (measure === null) return false;
    return this.put(rangeOf(measure, this.sharpened(said)), from);
  }

  /** What stands behind the unit says which way it is meant, too: "10 years or more". */
  private sharpened(said: Said): Said {
    this.takes(['old']);
    if (!said.isBare) return said;
    if (this.takes(['or', 'more']) || this.takes(['or', 'older']) || this.takes(['and', 'more']))
      return { ...said, max: null, isBare: false };
    if (this.takes(['or', 'less']) || this.takes(['or', 'fewer']) || this.takes(['or', 'younger']))
      return { ...said, min: null, isBare: false };
    return said;
  }

  /** "trust at least 12", "spam risk under 20", "age 5-10 years", "price: 50". */
  private measureFirst(from: number): boolean {
    const measure = this.takesOne(MEASURES_BY_LENGTH);
    if (measure === null) return false;
    this.takesSign('=');
    while (['of', 'is', 'are', 'score'].includes(this.here.text)) this.at++;
    const said = this.figures();
    if (said === null) return false;
    if (measure.fact === 'price') {
      const currency = said.currency ?? this.currency();
      return currency === null ? this.put(rangeOf(measure, said), from) : this.price(from, said, currency);
    }
    // "age over 10 years": the unit says nothing new, unless it is another
    const unit = MEASURES_BY_LENGTH.find(
      ({ value, words }) => value.fact === measure.fact && words.every((word, n) => this.peek(n).text === word),
    );
    if (unit) this.at += unit.words.length;
    return this.put(rangeOf({ ...measure, scale: unit?.value.scale ?? measure.scale }, said), from);
  }

  private price(from: number, said: Said, currency: string): boolean {
    if (currency !== this.vocabulary.currency) {
      const [start, end] = [this.tokens[from].start, this.tokens[this.at - 1].end];
      const reason = `prices are compared in ${this.vocabulary.currency}, your own currency`;
      this.unknown.push({ text: this.text.slice(start, end), start, end, reason });
      return true;
    }
    return this.put(rangeOf({ words: 'price', fact: 'price' }, said), from);
  }

  /** A currency's sign, where one stands before its figure. */
  private sign(): string | null {
    return this.here.kind === 'sign' ? this.currency() : null;
  }

  private currency(): string | null {
    const { kind, text: word } = this.here;
    const found =
      kind === 'sign'
        ? (MONEY_SIGNS[word] ?? null)
        : CURRENCIES.has(word)
          ? word.toUpperCase()
          : (CURRENCY_WORDS[word] ?? null);
    if (found !== null) this.at++;
    return found;
  }

  /** A figure with what says which way it is meant; two of them with "to" between. */
  private figures(): Said | null {
    const isBetween = this.takes(['between']);
    const bound = isBetween ? null : this.bound();
    let currency = this.sign();
    if (this.here.kind !== 'number') return null;
    const first = this.here.value;
    this.at++;
    if (this.takesSign('+') || this.takes(['or', 'more']) || this.takes(['and', 'more']) || this.takes(['plus']))
      return { min: first, max: null, isBare: false, currency };
    if (this.takes(['or', 'less']) || this.takes(['or', 'fewer']) || this.takes(['at', 'most']))
      return { min: null, max: first, isBare: false, currency };
    const mark = this.at;
    if (this.takes(['to']) || this.takes(['and']) || this.takesSign('-')) {
      currency ??= this.sign();
      if (this.here.kind === 'number') {
        const second = this.here.value;
        this.at++;
        return { min: Math.min(first, second), max: Math.max(first, second), isBare: false, currency };
      }
      this.at = mark;
    }
    if (bound === 'min') return { min: first, max: null, isBare: false, currency };
    if (bound === 'max') return { min: null, max: first, isBare: false, currency };
    return { min: first, max: first, isBare: bound === null, currency };
  }

  private bound(): 'min' | 'max' | 'exact' | null {
    if (this.takes(['at', 'least']) || this.takes(['more', 'than']) || this.takes(['older', 'than']) || this.takes(['longer', 'than'])) return 'min'; // biome-ignore format: one line
    if (this.takes(['at', 'most']) || this.takes(['up', 'to']) || this.takes(['less', 'than']) || this.takes(['fewer', 'than']) || this.takes(['younger', 'than']) || this.takes(['shorter', 'than']) || this.takes(['no', 'more', 'than'])) return 'max'; // biome-ignore format: one line
    const { kind, text: word } = this.here;
    if (kind !== 'word' && kind !== 'sign') return null;
    if (word === 'exactly' || word === '=') {
      this.at++;
      return 'exact';
    }
    if (!AT_LEAST.has(word) && !AT_MOST.has(word)) return null;
    this.at++;
    return AT_LEAST.has(word) ? 'min' : 'max';
  }

  private status(from: number, not: boolean): boolean {
    const phases = this.takesOne(STATUSES_BY_LENGTH)?.[1];
    return phases !== undefined && this.put(choice('phase', [...phases], not), from);
  }

  private listing(from: number, not: boolean): boolean {
    const kinds = this.takesOne(LISTINGS_BY_LENGTH)?.[1];
    return kinds !== undefined && this.put(choice('listing', [...kinds], not), from);
  }

  private tld(from: number, not: boolean): boolean {
    const { kind, text: word } = this.here;
    if (kind !== 'tld' && (kind !== 'word' || WORDY_TLDS.has(word))) return false;
    const ending = word.replace(/^\./, '');
    if (!this.vocabulary.isTld(ending)) return false;
    this.at++;
    return this.put(choice('ending', [ending], not), from);
  }

  private language(from: number, not: boolean): boolean {
    if (this.here.kind !== 'word') return false;
    const found = this.vocabulary.languages.find(({ name }) => name.toLowerCase() === this.here.text);
    if (!found) return false;
    this.at++;
    return this.put(choice('language', [found.code], not), from);
  }

  /** "not judged", "unjudged", "kept". */
  private mark(from: number, not: boolean): boolean {
    if (!not && (this.takes(['unjudged']) || this.takes(['not', 'judged'])))
      return this.put(choice('judged', ['not-yet'], false), from);
    if (not && (this.takes(['judged']) || this.takes(['yet', 'judged']) || this.takes(['looked', 'at'])))
      return this.put(choice('judged', ['not-yet'], false), from);
    if (this.takes(['kept'])) return this.put(choice('judged', ['keep'], not), from);
    return false;
  }

  private venue(from: number, not: boolean): boolean {
    const found = this.named(this.vocabulary.venues, (venue) => venue);
    return found !== null && this.put(choice('venue', [found], not), from);
  }

  /** "tagged later", "found in Saltmarch export". */
  private member(from: number, not: boolean): boolean {
    const fact: MemberFact | null =
      this.takes(['tagged']) || this.takes(['tag']) ? 'tag' : this.takes(['found', 'in']) || this.takes(['source']) ? 'source' : null; // biome-ignore format: one line
    if (fact === null) return false;
    const found = this.named(fact === 'tag' ? this.vocabulary.tags : this.vocabulary.sources, ({ name }) => name);
    return found !== null && this.put({ type: 'member', fact, values: [found.id], not }, from);
  }

  /** The longest of some names that stands next, in the words of the line. */
  private named<T>(all: readonly T[], nameOf: (one: T) => string): T | null {
    const rest = this.text.slice(this.here.start).toLowerCase();
    let best: T | null = null;
    for (const one of all) {
      const name = nameOf(one).toLowerCase();
      if (name === '' || !rest.startsWith(name) || /^[\p{L}\p{N}]/u.test(rest.slice(name.length))) continue;
      if (best === null || name.length > nameOf(best).length) best = one;
    }
    if (best === null) return null;
    const end = this.here.start + nameOf(best).length;
    while (this.here.kind !== 'end' && this.here.start < end) this.at++;
    return best;
  }

  /** "registrar Coombe Names": as it is written, to the next comma. */
  private registrar(from: number): boolean {
    if (!this.takes(['registrar'])) return false;
    this.takes(['is']);
    const start = this.here.start;
    while (this.here.kind !== 'end' && !(this.here.kind === 'sign' && this.here.text === ',')) this.at++;
    const name = this.text.slice(start, this.tokens[this.at - 1].end).trim();
    return name !== '' && this.put(choice('registrar', [name], false), from);
  }

  /** Words between conditions are stepped over; others are told, those that follow each other together. */
  private skipOrTell(): void {
    const { kind, text: word, start, end } = this.here;
    this.at++;
    if (kind === 'sign' && word !== '<' && word !== '>') return;
    if (kind === 'word' && (FILLERS.has(word) || NOT.has(word))) return;
    const last = this.unknown.at(-1);
    const isNext = last && last.reason === null && /^\s*$/.test(this.text.slice(last.end, start));
    if (isNext) {
      last.end = end;
      last.text = this.text.slice(last.start, end);
    } else this.unknown.push({ text: this.text.slice(start, end), start, end, reason: null });
  }
}

interface Said {
  min: number | null;
  max: number | null;
  /** Nothing says which way it is meant. */
  isBare: boolean;
  currency: string | null;
}

function rangeOf({ fact, scale = 1 }: Measure, { min, max, isBare }: Said): RangeCondition {
  const scaled = (value: number | null) => (value === null ? null : round(value * scale));
  if (!isBare) return range(fact, scaled(min), scaled(max));
  const bare = bareOf(fact);
  return range(fact, bare === 'max' ? null : scaled(min), bare === 'min' ? null : scaled(max));
}

const round = (value: number) => Math.round(value * 100) / 100;
const range = (fact: NumberFact | TimeFact, min: number | null, max: number | null): RangeCondition => ({
  type: 'range',
  fact,
  min,
  max,
  keepUnknown: false,
});
const choice = (fact: ChoiceFact, values: string[], not: boolean): ChoiceCondition => ({
  type: 'choice',
  fact,
  values,
  not,
  keepUnknown: false,
});
const text = (mode: TextMode, values: string[], not: boolean): TextCondition => ({
  type: 'text',
  fact: 'name',
  mode,
  values,
  not,
});

function mergeChoices(before: SievePart, next: SievePart): ChoiceCondition | null {
  if (before.type !== 'choice' || next.type !== 'choice') return null;
  if (before.fact !== next.fact || before.not !== next.not) return null;
  return { ...before, values: [...new Set([...before.values, ...next.values])] };
}
