import { tenths as number } from '../formats/figures';

/** What may be said of a domain to a buyer, as far as it is evidenced. Times in ms since 1970 UTC; null: not known. */
export interface SellingFacts {
  name: string;
  /** Its words, where the split is sure; empty: not sure. */
  words: readonly string[];
  label: string;
  registeredAt: number | null;
  firstSeenAt: number | null;
  contentYears: number | null;
  /** Title of its subject, with how sure it is. */
  subject: string | null;
  subjectConfidence: number | null;
  effective: number | null;
  referringDomains: number | null;
  /** Referrers whose linking page was looked at and still links, the strongest first. */
  seenLinking: readonly string[];
  visits: number | null;
  visitSource: string | null;
  wordMarks: number | null;
  drops: number | null;
  /** Of its last site from its main one, 0 to 1. */
  drift: number | null;
  linksAt: number | null;
  pastAt: number | null;
  recordAt: number | null;
  marksAt: number | null;
  visitsAt: number | null;
}

/** A sentence of a listing, with what it rests on. */
export interface SellingSentence {
  key: string;
  words: string;
  evidence: string;
  /** When that was so; null: it is in the name itself. */
  at: number | null;
}

const SURE = 0.7;
const LEAST_REFERRERS = 3;
const ANOTHER_SITE = 0.5;
const NAMED = 3;

/** Sentences that a listing may have: each from a fact that is known now, none without. What is estimated says so and by whom. */
export function sellingSentences(facts: SellingFacts): SellingSentence[] {
  const sentences: SellingSentence[] = [];
  const say = (key: string, words: string, evidence: string, at: number | null) =>
    sentences.push({ key, words, evidence, at });
  const { name, label, words } = facts;
  const length = [...label].length;
  const plain = /^\p{L}+$/u.test(label) ? ', without digits or hyphens' : '';
  say(
    'name',
    words.length > 1
      ? `${name}: ${words.join(' ')}, ${length} characters${plain}.`
      : `${name}: ${length} characters${plain}.`,
    'the name itself',
    null,
  );
  const year = (at: number) => new Date(at).getUTCFullYear();
  if (facts.registeredAt !== null)
    say('registered', `Registered in ${year(facts.registeredAt)}.`, 'its registration record', facts.recordAt);
  if (facts.contentYears !== null && facts.contentYears >= 1 && facts.firstSeenAt !== null)
    say(
      'past',
      `First seen in ${year(facts.firstSeenAt)}, with ${number(facts.contentYears)} years of content since.`,
      'captures of an archive, read here',
      facts.pastAt,
    );
  if (facts.drops === 0 && facts.pastAt !== null)
    say('drops', 'Nothing shows that it ever dropped.', 'captures and registration data', facts.pastAt);
  if (facts.subject !== null && (facts.subjectConfidence ?? 0) >= SURE)
    say(
      'subject',
      (facts.drift ?? 0) >= ANOTHER_SITE
        ? `Mainly its pages and links were about: ${facts.subject}; the last site was another.`
        : `Its pages and links were about: ${facts.subject}.`,
      `classified here, ${Math.round(100 * (facts.subjectConfidence ?? 0))}% sure`,
      facts.pastAt ?? facts.linksAt,
    );
  if ((facts.effective ?? 0) >= LEAST_REFERRERS)
    say(
      'links',
      `${number(facts.effective ?? 0)} effective referring domains of ${facts.referringDomains} referring domains: site-wide links, networks and nofollow are taken out.`,
      'links known here, weighed',
      facts.linksAt,
    );
  if (facts.seenLinking.length > 0)
    say(
      'linking',
      `Still linked from ${facts.seenLinking.slice(0, NAMED).join(', ')}.`,
      'the linking pages, fetched again',
      facts.linksAt,
    );
  if (facts.visits !== null && facts.visits >= 1 && facts.visitSource !== null)
    say(
      'visits',
      `Its phrases brought about ${Math.round(facts.visits)} visits a month when it was on line, by the estimate of ${facts.visitSource}.`,
      'an estimate of others',
      facts.visitsAt,
    );
  if (facts.wordMarks === 0 && facts.marksAt !== null)
    say(
      'marks',
      'A search of the trademark register found nothing like it; that is no legal advice.',
      'the register, searched here',
      facts.marksAt,
    );
  return sentences;
}

/** The text of a listing from chosen sentences, in their order. */
export function sellingText(sentences: readonly SellingSentence[], chosen: readonly string[] | null): string {
  return sentences
    .filter(({ key }) => chosen === null || chosen.includes(key))
    .map(({ words }) => words)
    .join(' ');
}
