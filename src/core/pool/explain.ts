import { type FactName, type FactPart, factSpec, type Told } from './facts';

/** What a measure is, in two lines: what it says, and its range with where it comes from. */
export interface Explanation {
  what: string;
  from: string;
}

const SOURCES: Record<Told, string> = {
  links: 'from the crawls and link files read here',
  past: 'from the index of the archive',
  captures: 'from captures that were read',
  offer: 'as its venue says',
  rankings: 'from imported lists of keywords',
  lists: 'as the list says that was read last',
};
const PARTS: Record<FactPart, string> = {
  name: 'from the name itself',
  record: 'from RDAP, WHOIS and DNS',
  past: 'from captures that were read',
  links: 'from the crawls and link files read here',
  lists: SOURCES.lists,
  offers: SOURCES.offer,
  sources: 'from what was read here',
  yours: 'by you',
  asked: 'noted here when it was asked',
};

/** A measure of the pool, explained for who meets it: on heads, in conditions, in the dossier and side by side. */
export function explain(fact: FactName): Explanation {
  const spec = factSpec(fact);
  const source = spec.told === undefined ? PARTS[spec.part] : SOURCES[spec.told];
  const unknown = spec.optional ? '; empty where it is not known' : '';
  return { what: sentence(spec.about), from: sentence([rangeOf(fact), source].filter(Boolean).join(', ') + unknown) };
}

function rangeOf(fact: FactName): string {
  const { extent, unit, kind, whole } = factSpec(fact);
  if (extent) return `${extent[0]} to ${extent[1]}`;
  if (unit) return `in ${unit}`;
  if (kind === 'number') return whole ? 'a count from 0' : 'from 0';
  return '';
}

const sentence = (words: string) => `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
