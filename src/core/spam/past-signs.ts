import type { CaptureKind } from '../history/capture';
import type { Past } from '../history/past';
import { subjectTitle } from '../topics/subjects';
import type { OwnPast, SpamPast } from './input';
import { RISKY_SUBJECTS } from './risky';
import { type SellingKind, scriptOf, sellingWords } from './selling';

/** A capture as the rules read it. */
export interface SignCapture {
  at: number;
  kind: CaptureKind;
  title: string;
  subject: string | null;
  redirectTo: string | null;
  terms: ReadonlyMap<string, number>;
}

const MOST_NOTES = 4;

/** What captures and the past made of them say to the spam rules; null when none was read. */
export function pastSigns(
  captures: readonly SignCapture[],
  past: Pick<Past, 'languageSwitches' | 'subjectSwitches' | 'drift' | 'eras'>,
): SpamPast | null {
  if (captures.length === 0) return null;
  const share = (some: readonly unknown[]) => some.length / captures.length;
  const year = (at: number) => new Date(at).getUTCFullYear();
  const notes = (some: readonly SignCapture[], words: (capture: SignCapture) => string) =>
    [...new Set(some.map((capture) => `${year(capture.at)}: ${words(capture)}`))].slice(0, MOST_NOTES);
  const parked = captures.filter(({ kind }) => kind === 'parked' || kind === 'for-sale');
  const redirected = captures.filter(({ kind }) => kind === 'redirect');
  const own = ownPast(captures);
  const risky = captures.filter(
    ({ kind, subject }) => kind === 'content' && RISKY_SUBJECTS.test(subject ?? '') && subject !== own.subject,
  );
  const laced = captures.filter((capture) => !risky.includes(capture) && isLaced(capture, own));
  const content = past.eras.filter(({ kind }) => kind === 'content');
  return {
    captures: captures.length,
    parked: share(parked),
    redirected: share(redirected),
    risky: share(risky),
    laced: share(laced),
    own,
    languageSwitches: past.languageSwitches,
    subjectSwitches: past.subjectSwitches,
    drift: past.drift,
    notes: {
      parked: notes(parked, ({ kind }) => (kind === 'parked' ? 'parked' : 'for sale')),
      redirected: notes(redirected, ({ redirectTo }) => `to ${redirectTo ?? 'another domain'}`),
      risky: notes(risky, ({ title, subject }) => `${subjectTitle(subject ?? '')}${title ? `, "${title}"` : ''}`),
      laced: notes(laced, ({ terms }) => `says ${foreignWords(terms, own).slice(0, 3).join(', ')}`),
      switches:
        past.languageSwitches + past.subjectSwitches === 0
          ? []
          : content.map(({ from, language, subject }) =>
              [year(from), subject ? subjectTitle(subject) : 'no clear subject', language ?? ''].join(' ').trim(),
            ),
    },
  };
}

/** What is sold by sites of a subject. */
const SOLD_BY: Record<string, SellingKind[]> = {
  'adult.pills': ['pills'],
  'health.medicine': ['pills'],
  'games.gambling': ['gambling'],
  'games.lottery': ['gambling'],
  'games.boardgames': ['gambling'],
  'business.loans': ['loans'],
  'business.banking': ['loans'],
  'adult.adult': ['adult'],
  'media.chat': ['adult'],
  'adult.replicas': ['replicas', 'cheap-deals'],
  'adult.essays': ['essays'],
  'adult.crypto': ['crypto'],
  'business.investing': ['crypto', 'loans'],
  'adult.downloads': ['downloads'],
  'technology.software': ['downloads'],
  'shopping.deals': ['cheap-deals'],
};

/** What a site was in its first captures of content: those with the subject of the first that has one. */
function ownPast(captures: readonly SignCapture[]): OwnPast {
  const content = captures.filter(({ kind }) => kind === 'content').sort((a, b) => a.at - b.at);
  if (content.length === 0) return { script: null, sells: [], subject: null, titles: [] };
  const [first] = content;
  const subject = first.subject;
  const words = [...first.terms.keys()];
  const said = [...sellingWords(words)].flatMap(([kind, found]) => (found.size >= 1 ? [kind] : []));
  const sells = [...new Set([...said, ...(SOLD_BY[subject ?? ''] ?? [])])];
  const titles = [...new Set(content.slice(0, MOST_TITLES).map(({ title }) => title))];
  return {
    script: scriptOf(`${first.title} ${words.join(' ')}`),
    sells,
    subject,
    titles: subject === null ? [] : titles,
  };
}

const MOST_TITLES = 2;
const LACED_WORDS = 2;

function isLaced({ kind, subject, terms }: SignCapture, own: OwnPast): boolean {
  if (kind !== 'content' || RISKY_SUBJECTS.test(subject ?? '')) return false;
  return foreignWords(terms, own).length >= LACED_WORDS;
}

/** Words that sell what the site did not begin with. */
function foreignWords(terms: ReadonlyMap<string, number>, own: OwnPast): string[] {
  return [...sellingWords(terms.keys())].flatMap(([kind, words]) => (own.sells.includes(kind) ? [] : [...words]));
}
