import { Bookmark } from 'lucide-react';
import type { ReactNode } from 'react';
import { fixed } from '../../core/formats/figures';
import { languageName } from '../../core/history/language-name';
import { type ColumnSet, USUAL_COLUMNS } from '../../core/pool/conditions';
import type { DomainView } from '../../core/pool/domain-view';
import type { Explanation } from '../../core/pool/explain';
import {
  FACT_PARTS,
  FACTS,
  type FactName,
  type FactPart,
  factSpec,
  SHOWN_NUMBERS,
  type ShownNumber,
} from '../../core/pool/facts';
import type { RowField } from '../../core/pool/row-columns';
import { figure, figureOrigin } from '../../core/wording/figures';
import {
  ago,
  askedPrice,
  closing,
  count,
  day,
  duration,
  isSoon,
  KIND_WORDS,
  linksOrigin,
  moment,
  offerTitle,
  pastOrigin,
  phaseOrigin,
  phaseWords,
  plural,
  score,
} from '../../core/wording/format';
import { isOverruled, spamOrigin, spamText } from '../../core/wording/spam-words';
import { FitCell, WorthCell } from '../decision/cell-slots';
import { FIT_EXPLAINED, WORTH_EXPLAINED } from '../decision/explained-words';
import { FIRST_YEAR, Lifeline, Pair } from '../lifeline';
import Link from '../link';
import { wordFor } from './sentences';

/** A column of the grid. */
export interface Column {
  id: string;
  title: string;
  /** Facts that a click on the head sorts by, with what the button is called where there are several. */
  sorts: { fact: FactName; label?: string }[];
  width: number;
  /** Fields of the row that it draws, beside those that every row has (ALWAYS). */
  of: readonly RowField[];
  numeric?: boolean;
  /** What it is, where it is no fact of its own. */
  words?: Explanation;
  /** Where the figure comes from and how old it is. */
  origin(row: DomainView, now: number): string;
  cell(row: DomainView, now: number, width: number): ReactNode;
  /** As copied text. */
  text(row: DomainView, now: number): string;
  /** The row has nothing of it: its cell asks for it, and its text is in the file. */
  isAside?: boolean;
}

const inspected = (row: DomainView, now: number) =>
  row.capturesAt === null
    ? 'captures were not read'
    : `${row.capturesRead ?? 0} captures read ${ago(row.capturesAt, now)}`;

const short = (ms: number) => duration(ms).replace(' years', ' y').replace(' months', ' mo').replace(' days', ' d');
const date = (at: number | null, now: number) => (at === null ? '' : day(at, now));
const soon = (at: number | null, now: number, text: string) => (
  <span className={isSoon(at, now) ? '-mx-1 rounded-[3px] bg-quince px-1' : ''}>{text}</span>
);

function column(
  id: string,
  title: string,
  width: number,
  sorts: Column['sorts'],
  text: Column['text'],
  more: Partial<Column> = {},
): Column {
  return { id, title, width, sorts, text, of: [], origin: () => '', cell: (row, now) => text(row, now), ...more };
}

type TimeField = 'addedAt' | 'phaseAt' | 'pastAt' | 'linksAt' | 'listingAt';
const asked = (id: string, title: string, fact: FactName, at: TimeField) =>
  column(id, title, 78, [{ fact }], (row, now) => (row[at] === null ? 'never' : short(now - row[at])), {
    of: [at],
    numeric: true,
    origin: (row, now) => `${title.toLowerCase()} ${ago(row[at], now)}`,
  });

/** Fields that every row of the grid has: the line below the grid, the name and the keys are made of them. */
const ALWAYS: readonly RowField[] = [
  'display', 'phase', 'phaseAt', 'phaseReason', 'phaseSource', 'isUnasked', 'linksAt', 'pastAt', 'pastSource', 'judged', 'shortlisted',
  'watched', 'matches', 'freshIn',
]; // biome-ignore format: a list of names
const CAPTURES: readonly RowField[] = ['capturesAt', 'capturesRead'];
const OFFER: readonly RowField[] = [
  'listing', 'venue', 'priceMinor', 'currency', 'homeMinor', 'homeCurrency', 'offers', 'bids', 'listingAt', 'closingAt',
]; // biome-ignore format: a list of names

/** Columns that are more than the figure of one fact, in the order of the list to choose from. */
const MADE: Column[] = [
  column('domain', 'Domain', 230, [{ fact: 'name' }], (row) => row.display, {
    origin: (row) => `${row.display}${isByChance(row) ? ': the letters looked for are no word of this name' : ''}`,
    cell: (row) => <DomainCell row={row} />,
  }),
  column('phase', 'Status', 186, [{ fact: 'phase' }], phaseWords, {
    of: ['isOwn', 'dropAt', 'window', 'expiresAt'],
    origin: (row, now) => `${row.phaseReason ?? ''} ${phaseOrigin(row, now)}`.trim(),
    cell: (row, now) => soon(row.phase === 'pending-delete' ? row.dropAt : null, now, phaseWords(row, now)),
  }),
  column('life', `Life, ${FIRST_YEAR} to now`, 112, [{ fact: 'firstSeen' }], (row, now) => date(row.firstSeenAt, now), {
    of: ['firstSeenAt', 'captures', 'capturesByYear', 'registeredAt', 'expiresAt', 'dropAt'],
    origin: (row, now) => `${row.captures === null ? '' : `${row.captures} captures; `}${pastOrigin(row, now)}`,
    cell: (row, now, width) => <Lifeline life={row} now={now} width={Math.max(40, width - 10)} height={18} />,
  }),
  column(
    'age',
    'Age',
    52,
    [{ fact: 'age' }],
    (row, now) => (row.registeredAt === null ? '' : short(now - row.registeredAt)),
    {
      of: ['registeredAt'],
      numeric: true,
      origin: (row, now) =>
        row.registeredAt === null ? 'registration date not known' : `registered ${day(row.registeredAt, now)}`,
    },
  ),
  column(
    'referrers',
    'Referring domains of backlinks',
    120,
    [
      { fact: 'referringDomains', label: 'Referring domains' },
      { fact: 'backlinks', label: 'of backlinks' },
    ],
    (row) => count(row.referringDomains),
    {
      of: ['referringDomains', 'backlinks'],
      numeric: true,
      origin: (row, now) => `${count(row.backlinks)} linking pages; ${linksOrigin(row, now)}`,
      cell: (row) => (
        <>
          {count(row.referringDomains)}{' '}
          <span className="small">{row.backlinks === null ? '' : `of ${count(row.backlinks)}`}</span>
        </>
      ),
    },
  ),
  column(
    'pair',
    'Strength and trust',
    128,
    [
      { fact: 'strength', label: 'Strength' },
      { fact: 'trust', label: 'and trust' },
    ],
    (row) => `${score(row.strength)} ${score(row.trust)}`.trim(),
    {
      of: ['strength', 'trust'],
      origin: (row, now) =>
        `strength ${score(row.strength) || 'unknown'}, trust ${score(row.trust) || 'unknown'}; ten points are a factor of four; ${linksOrigin(row, now)}`,
      cell: (row) => (
        <>
          <Pair strength={row.strength} trust={row.trust} width={58} /> {score(row.strength)}
          {row.trust !== null && <span> · {score(row.trust)}</span>}
        </>
      ),
    },
  ),
  column('spam', 'Spam risk', 62, [{ fact: 'spamRisk' }], (row) => spamText(row), {
    of: ['spamRisk'],
    numeric: true,
    origin: spamOrigin,
    cell: (row) => (
      <>
        {isOverruled(row) && <span className="small">{row.spamRisk ?? ''} </span>}
        {spamText(row)}
      </>
    ),
  }),
  column(
    'subject',
    'Subject',
    128,
    [{ fact: 'subject' }, { fact: 'area', label: 'area' }],
    (row) => row.subject ?? '',
    {
      of: ['subject', 'area', 'subjectConfidence', 'capturesAt'],
      origin: (row, now) =>
        row.subject === null
          ? 'not clear, or not measured'
          : `${row.area}; confidence ${fixed(row.subjectConfidence ?? 0, 2)}, from captures and anchors read ${ago(row.capturesAt, now)}`,
    },
  ),
  column(
    'language',
    'Language',
    78,
    [{ fact: 'language' }],
    (row) => (row.language === null ? '' : languageName(row.language)),
    { of: ['language', 'capturesAt', 'capturesRead'], origin: (row, now) => inspected(row, now) },
  ),
  column('forwardsTo', 'Forwards to', 150, [{ fact: 'forwardsTo' }], (row) => row.forwardsTo ?? '', {
    of: ['forwardsTo', 'forwardsNow'],
    origin: (row) =>
      row.forwardsTo === null ? '' : row.forwardsNow ? 'as its front page answers now' : 'by its last captures',
  }),
  column('sayability', 'Ease of saying', 84, [], (row) => count(row.sayability), {
    of: ['sayability'],
    numeric: true,
    origin: () => 'by its letters: 50 is as easy to say as the average word',
  }),
  column('nameSubject', 'Subject by name', 128, [], (row) => row.nameSubject ?? '', {
    of: ['nameSubject'],
    origin: () => 'by the words of the name alone',
  }),
  column('ask', 'Price', 98, [{ fact: 'price' }], (row) => askedPrice(row), {
    of: OFFER,
    numeric: true,
    origin: (row) => offerTitle(row),
    cell: (row) => (
      <>
        {row.listing === 'offer' && row.priceMinor === null ? 'offer' : askedPrice(row)}
        {row.offers !== null && row.offers > 1 && (
          <span className="small">
            {' '}
            <span className="sr-only">and {plural(row.offers - 1, 'other offer')}</span>
            <span aria-hidden>+{row.offers - 1}</span>
          </span>
        )}
      </>
    ),
  }),
  column('closes', 'Closes', 66, [{ fact: 'closing' }], (row, now) => closing(row.closingAt, now), {
    of: ['closingAt'],
    origin: (row, now) => (row.closingAt ? moment(row.closingAt, now) : ''),
    cell: (row, now) => soon(row.closingAt, now, closing(row.closingAt, now)),
  }),
  column(
    'judged',
    'Judged by me',
    120,
    [{ fact: 'judged' }],
    (row) => (row.judged === 'not-yet' ? '' : wordFor(row.judged)),
    {
      of: ['judgedReason', 'judgedAt'],
      origin: (row, now) =>
        row.judged === 'not-yet'
          ? 'not yet judged'
          : `${ago(row.judgedAt, now)}${row.judgedReason ? `: ${row.judgedReason}` : ''}`,
      cell: (row) =>
        row.judged === 'not-yet' ? (
          ''
        ) : (
          <>
            {wordFor(row.judged)} <span className="small">{row.judgedReason}</span>
          </>
        ),
    },
  ),
  column('expires', 'Expires', 84, [{ fact: 'expires' }], (row, now) => date(row.expiresAt, now), {
    of: ['expiresAt', 'recordAt'],
    origin: (row, now) => `record read ${ago(row.recordAt, now)}`,
  }),
  column('drop', 'Expected drop', 84, [{ fact: 'drop' }], (row, now) => date(row.dropAt, now), {
    of: ['dropAt'],
    origin: phaseOrigin,
  }),
  column('registrar', 'Registrar', 130, [{ fact: 'registrar' }], (row) => row.registrar ?? '', { of: ['registrar'] }),
  column('lastSeen', 'Last seen', 84, [{ fact: 'lastSeen' }], (row, now) => date(row.lastSeenAt, now), {
    of: ['lastSeenAt'],
    origin: pastOrigin,
  }),
  column(
    'trustShare',
    'Trust share',
    60,
    [{ fact: 'trustShare' }],
    (row) => (row.trust === null || !row.strength ? '' : fixed(row.trust / row.strength, 2)),
    { of: ['trust', 'strength'], numeric: true, origin: (row, now) => `trust over strength; ${linksOrigin(row, now)}` },
  ),
  column(
    'listing',
    'Listing',
    130,
    [{ fact: 'listing' }],
    (row) => (row.listing === null ? '' : KIND_WORDS[row.listing]),
    { of: OFFER, origin: (row) => offerTitle(row) },
  ),
  column('venue', 'Venue', 120, [{ fact: 'venue' }], (row) => row.venue ?? '', { of: ['venue'] }),
  column('ending', 'TLD', 64, [{ fact: 'ending' }], (row) => row.ending),
  column('length', 'Length', 56, [{ fact: 'length' }], (row) => count(row.length), {
    of: ['length'],
    numeric: true,
    origin: () => 'characters before the TLD',
  }),
  column('words', 'Words in the name', 150, [{ fact: 'words' }], (row) => wordsOf(row).join(' '), {
    of: ['starts'],
    origin: () => 'the most likely split of the name',
  }),
  column('fit', 'Fit', 96, [], () => '', {
    isAside: true,
    words: FIT_EXPLAINED,
    origin: () => 'for the current brief',
    cell: (row) => <FitCell name={row.name} />,
  }),
  column('worth', 'Worth', 118, [], () => '', {
    isAside: true,
    words: WORTH_EXPLAINED,
    numeric: true,
    origin: () => 'for the current brief',
    cell: (row) => <WorthCell name={row.name} />,
  }),
  asked('added', 'First found', 'added', 'addedAt'),
  asked('phaseAsked', 'Status asked', 'phaseAsked', 'phaseAt'),
  asked('pastRead', 'Past read', 'pastRead', 'pastAt'),
  asked('linksMeasured', 'Links measured', 'linksMeasured', 'linksAt'),
  asked('offerRead', 'Offer read', 'offerRead', 'listingAt'),
];

const MADE_OF = new Set(MADE.flatMap(({ id, sorts }) => [id, ...sorts.map(({ fact }) => fact)]));

/** All columns there are: figures of the table of facts that no column of its own shows stand behind the others of their part. */
export const COLUMNS: Column[] = FACT_PARTS.reduce((columns, part) => {
  const figures = SHOWN_NUMBERS.filter((fact) => FACTS[fact].part === part && !MADE_OF.has(fact)).map(figureColumn);
  const upTo: readonly FactPart[] = FACT_PARTS.slice(0, FACT_PARTS.indexOf(part) + 1);
  const isOf = (parts: readonly FactPart[]) => (column: Column) =>
    column.sorts.some(({ fact }) => parts.includes(FACTS[fact].part));
  const own = columns.findLastIndex(isOf([part]));
  const last = own >= 0 ? own : columns.findLastIndex(isOf(upTo));
  return columns.toSpliced(last + 1, 0, ...figures);
}, MADE);

function figureColumn(fact: ShownNumber): Column {
  const { label, width = 70, told } = factSpec(fact);
  return column(fact, label, width, [{ fact }], (row) => figure(fact, row[fact]), {
    of: [fact, ...(told === 'captures' ? CAPTURES : told === 'offer' ? OFFER : [])],
    numeric: true,
    origin: (row, now) => figureOrigin(fact, row, now),
  });
}

export const COLUMN_BY_ID = new Map(COLUMNS.map((entry) => [entry.id, entry]));

export const DEFAULT_COLUMNS: ColumnSet = {
  shown: USUAL_COLUMNS.map((id) => ({
    id,
    width: null,
  })),
  pinned: 1,
};

/** What is shown where there is no room for more, as on a phone: some of the usual ones. */
export const FEW_COLUMNS: ColumnSet = {
  shown: [
    { id: 'domain', width: 168 },
    { id: 'phase', width: 150 },
    { id: 'ask', width: 84 },
    { id: 'closes', width: 56 },
  ],
  pinned: 1,
};

/** What is shown: known columns only, the domain among them. */
export function shownColumns(set: ColumnSet | null): { column: Column; width: number }[] {
  const shown = (set ?? DEFAULT_COLUMNS).shown.flatMap(({ id, width }) => {
    const found = COLUMN_BY_ID.get(id);
    return found ? [{ column: found, width: width ?? found.width }] : [];
  });
  if (shown.some(({ column: { id } }) => id === 'domain')) return shown;
  return [{ column: COLUMNS[0], width: COLUMNS[0].width }, ...shown];
}

/** Fields of the rows that a view with these columns draws. */
export function fieldsOf(set: ColumnSet | null): RowField[] {
  return [...new Set([...ALWAYS, ...shownColumns(set).flatMap(({ column: { of } }) => of)])];
}

function wordsOf(row: DomainView): string[] {
  const label = row.name.slice(0, row.name.length - row.ending.length - 1);
  return row.starts.map((at, i) => label.slice(at, row.starts[i + 1]).replace(/-+$/, ''));
}

/** Whether all letters that were looked for stand in the name by chance. */
export function isByChance({ matches }: Pick<DomainView, 'matches'>): boolean {
  return matches.length > 0 && matches.every(({ isWord }) => !isWord);
}

/** The name, the letters that were looked for marked in it. */
export function MarkedName({ row }: { row: DomainView }) {
  const label = row.display.slice(0, row.display.length - row.ending.length - 1);
  const isPlain = row.display === row.name;
  const pieces: ReactNode[] = [];
  let at = 0;
  for (const { start, end, isWord } of isPlain ? row.matches : []) {
    if (start < at) continue;
    pieces.push(label.slice(at, start));
    pieces.push(
      <span key={start} className={isWord ? 'text-damson' : 'underline decoration-dotted underline-offset-2'}>
        {label.slice(start, end)}
      </span>,
    );
    at = end;
  }
  pieces.push(label.slice(at));
  return (
    <>
      <span className="font-semibold">{pieces}</span>
      <span className="text-muted">.{row.ending}</span>
    </>
  );
}

function DomainCell({ row }: { row: DomainView }) {
  return (
    <>
      <Link href={`/domains/${row.name}`} tabIndex={-1} prefetch={false} className="hover:underline">
        <MarkedName row={row} />
      </Link>
      {row.shortlisted && (
        <Bookmark size={12} role="img" aria-label="shortlisted" className="ml-1.5 inline text-damson" />
      )}
      {row.freshIn.length > 0 && (
        <span className="ml-1.5 rounded-full border border-damson px-1.5 text-small text-damson">new</span>
      )}
      {isByChance(row) && <span className="small ml-1.5">letters only</span>}
    </>
  );
}
