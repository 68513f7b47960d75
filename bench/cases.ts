import { readFileSync } from 'node:fs';

/** A page by hand, with what a person says that it is about. */
export interface CasePage {
  /** `area.subject`; null: it is about nothing, or its language is not read. */
  subject: string | null;
  /** ISO 639-1. */
  language: string;
  isRead: boolean;
  text: string;
}

/** Home pages that nobody's generator wrote (bench/cases/pages-*.txt). */
export function casePages(): CasePage[] {
  return ['pages-en', 'pages-other'].flatMap((name) =>
    read(name)
      .split(/^## /m)
      .slice(1)
      .map((part) => {
        const end = part.indexOf('\n');
        const [subject, language] = part.slice(0, end).trim().split(' ');
        const isSubject = subject.includes('.');
        return {
          subject: isSubject ? subject : null,
          language,
          isRead: subject !== 'unread',
          text: part.slice(end).trim(),
        };
      }),
  );
}

/** Names with the words that a person reads in them, by group: a language, or `en modern`. */
export function caseNames(): Map<string, string[][]> {
  const groups = new Map<string, string[][]>();
  let names: string[][] = [];
  for (const line of read('words').split('\n')) {
    const group = /^\[(.+)\]$/.exec(line)?.[1];
    if (group) {
      names = [];
      groups.set(group, names);
    } else if (line !== '' && !line.startsWith('#')) names.push(line.split(' '));
  }
  return groups;
}

/** Names in which a keyword stands as a word, or only as letters. */
export function caseKeywords(): { label: string; keyword: string; isWord: boolean }[] {
  return read('keywords')
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith('#'))
    .map((line) => {
      const [label, keyword, answer] = line.split(' ');
      return { label, keyword, isWord: answer === 'yes' };
    });
}

/** A past by hand, with what a person says of it. */
export interface CasePast {
  sort: string;
  domain: string;
  registeredAt: string | null;
  captures: { at: string; status: number; location: string | null; title: string; text: string }[];
  eras: { kind: string; from: number; to: number; subject: string | null; language: string | null }[];
  /** Years between which it lapsed. */
  drops: { from: number; to: number }[];
  /** null: not said. */
  topic: 'low' | 'high' | null;
  years: number | null;
}

/** Pasts that nobody's generator wrote (bench/cases/pasts*.txt; the first says how they stand). */
export function casePasts(): CasePast[] {
  return ['pasts', 'pasts-more']
    .flatMap((name) => read(name).split(/^## /m).slice(1))
    .map((part) => {
      const [sort, ...lines] = part.trim().split('\n');
      const past: CasePast = {
        sort,
        domain: 'somewhere.example',
        registeredAt: null,
        captures: [],
        eras: [],
        drops: [],
        topic: null,
        years: null,
      };
      for (const line of lines) readPastLine(past, line.trim());
      return past;
    });
}

function readPastLine(past: CasePast, line: string): void {
  const [what, ...rest] = line.split(' ');
  const span = () =>
    rest
      .find((word) => /^\d{4}\.\.\d{4}$/.test(word))
      ?.split('..')
      .map(Number) ?? [0, 0];
  if (what === 'registered') past.registeredAt = rest[0];
  else if (what === 'domain') past.domain = rest[0];
  else if (what === 'cap') {
    const [at, status] = rest;
    const said = rest.slice(2).join(' ');
    const isRedirect = said.startsWith('-> ');
    const [title, text = ''] = isRedirect ? ['', ''] : said.split(' :: ');
    past.captures.push({ at, status: Number(status), location: isRedirect ? said.slice(3) : null, title, text });
  } else if (what === 'era') {
    const [from, to] = span();
    const subject = rest.find((word) => /^[a-z]+\.[a-z]+$/.test(word)) ?? null;
    const language = rest.slice(1).find((word) => /^[a-z]{2}$/.test(word)) ?? null;
    past.eras.push({ kind: rest[0], from, to, subject, language });
  } else if (what === 'drop') {
    const [from, to] = span();
    past.drops.push({ from, to });
  } else if (what === 'topic') past.topic = rest[0] === 'high' ? 'high' : 'low';
  else if (what === 'years') past.years = Number(rest[0]);
}

/** A link profile by hand: the line for the judge, and what a person says that it is. */
export interface CaseProfile {
  isSpam: boolean;
  sort: string;
  line: string;
}

/** Link profiles that nobody's generator wrote (bench/cases/links*.txt; the first says how they stand). */
export function caseProfiles(names: readonly string[] = ['links', 'links-more', 'links-third']): CaseProfile[] {
  return names.flatMap((name) => read(name).split(/^## /m).slice(1)).map(readProfile);
}

/** A profile as it is written: its heading, then a line for each thing that is known. */
export function readProfile(part: string): CaseProfile {
  const [heading, ...lines] = part.trim().split('\n');
  const [what, sort] = heading.split(': ');
  const profile: Profile = { ...EMPTY, domain: '', links: [], captures: [] };
  for (const line of lines) readProfileLine(profile, line.trim());
  if (profile.domain === '') profile.domain = likelyName(profile);
  return { isSpam: what === 'abused', sort, line: JSON.stringify(profile) };
}

/** The name of a site that nobody wrote down: an address among the anchors, the title of the first capture, or the oldest anchor. */
function likelyName({ links, captures }: Profile): string {
  const oldest = [...links].sort((a, b) => (a.firstSeenAt < b.firstSeenAt ? -1 : 1));
  const address = oldest
    .map(({ anchor }) => anchor.replace(/^(https?:\/\/)?(www\.)?|\/$/g, ''))
    .find((text) => /^[a-z0-9-]+\.example$/.test(text));
  if (address) return address;
  const label = (captures[0]?.title ?? oldest[0]?.anchor ?? 'somewhere').toLowerCase().replace(/[^a-z0-9]/g, '');
  return `${label.slice(0, 50) || 'somewhere'}.example`;
}

const EMPTY = {
  registeredAt: null as string | null,
  strengthRank: null as number | null,
  trustRank: null as number | null,
};
interface ProfileLink {
  anchor: string;
  firstSeenAt: string;
}
type Profile = typeof EMPTY & { domain: string; links: ProfileLink[]; captures: { title?: string }[] };

function readProfileLine(profile: Profile, line: string): void {
  const [what, ...rest] = line.split(' ');
  if (what === 'domain') profile.domain = rest[0];
  else if (what === 'registered') profile.registeredAt = rest[0];
  else if (what === 'ranks') [profile.strengthRank, profile.trustRank] = rest.map(Number);
  else if (what === 'cap') {
    const [title, text = ''] = rest.slice(1).join(' ').split(' :: ');
    profile.captures.push({ at: rest[0], status: 200, title, text } as object);
  } else if (what === 'redirect') profile.captures.push({ at: rest[0], status: 301, location: rest[1] } as object);
  else if (/^\d+$/.test(what)) profile.links.push(...linksOf(line, profile.links.length));
}

const DAY = 86_400_000;

/** The links that a line stands for, spread evenly over its dates and anchors. */
function linksOf(line: string, before: number): ProfileLink[] {
  const [head, said] = [line.slice(0, line.indexOf(': ')), line.slice(line.indexOf(': ') + 2)];
  const [many, dates] = head.split(' ');
  const [from, to] = dates.split('..').map((date) => Date.parse(date));
  const [anchors, text] = said.split(' :: ');
  const choices = anchors.split(' | ').map((anchor) => anchor.trim());
  const tag = (name: string) => new RegExp(`\\b${name} (\\S+)`).exec(head)?.[1];
  const owner = /\bowner (.+?)(?= (?:pages|nofollow|block|ns|lapsed|id) ?|$)/.exec(head)?.[1];
  return Array.from({ length: Number(many) }, (_, n) => ({
    site: `from${before + n}.example`,
    pages: Number(tag('pages') ?? 1),
    anchor: choices[n % choices.length],
    nofollow: /\bnofollow\b/.test(head),
    firstSeenAt: new Date(from + ((n + 0.5) / Number(many)) * Math.max(DAY, (to || from) - from)).toISOString(),
    lapsedTargets: tag('lapsed') === undefined ? null : Number(tag('lapsed')),
    registrant: owner ?? null,
    nameServers: tag('ns') === undefined ? [] : [tag('ns')],
    addressBlock: tag('block') ?? null,
    trackingIds: tag('id') === undefined ? [] : [tag('id')],
    text: text ?? null,
  }));
}

/** Referring domains by hand: the line for the judge, and how many a person says that they count for. */
export interface CaseReferrers {
  sort: string;
  least: number;
  most: number;
  line: string;
}

/** Sets of referring domains that nobody's generator wrote (bench/cases/referrers.txt says how they stand). */
export function caseReferrers(): CaseReferrers[] {
  return read('referrers')
    .split(/^## /m)
    .slice(1)
    .map((part) => {
      const [heading, ...lines] = part.trim().split('\n');
      const [sort, range] = heading.split(': effective ');
      const [least, most] = range.split('..').map(Number);
      const referrers: ProfileLink[] = [];
      for (const line of lines) if (line !== '') referrers.push(...referrersOf(line, referrers.length));
      return { sort, least, most, line: JSON.stringify({ referrers }) };
    });
}

/** A line of referrers as the same line of links, with one of the choices in its text for each. */
function referrersOf(line: string, before: number): ProfileLink[] {
  const [head, text] = line.split(' :: ');
  const [many, ...tags] = head.split(' ');
  const links = linksOf(`${[many, '2020-01-01..2021-01-01', ...tags].join(' ')}: here`, before);
  return links.map((link, n) => ({
    ...link,
    text:
      text?.replace(/\{([^}]*)\}/g, (_, choices: string) => choices.split('|')[n % choices.split('|').length]) ?? null,
  }));
}

const read = (name: string) => readFileSync(`bench/cases/${name}.txt`, 'utf8').trim();
