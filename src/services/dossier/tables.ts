import type { Referrer, TableView } from '../../contracts/dossier';
import { arrange, type EvidenceRow, type TableAsk, type TableColumn } from '../../core/evidence/arrange';
import { languageName } from '../../core/history/language-name';
import type { AnchorKind } from '../../core/links/anchor-kind-names';
import { anchorKind } from '../../core/links/anchor-kinds';
import { countryName, countryOfEnding } from '../../core/links/countries';
import { registrableDomain } from '../../core/names/domain';
import { subjectTitle, subjectWords } from '../../core/topics/subjects';
import type { Store } from '../../store/base/database';
import { type DomainRow, sightingsOf } from '../../store/domains/domains';
import { ticksOf } from '../../store/domains/notes';
import { markReviewsOf } from '../../store/domains/word-marks';
import { checksOf } from '../../store/lifecycle/verdicts';
import { capturesOf } from '../../store/links/captures';
import { anchorsOf } from '../../store/links/links';
import { oldAddresses } from '../../store/links/referring';
import { historyOf } from './history';
import { referrersOf } from './referrers';

/** Tables of a dossier that can be sorted, searched and taken out as a file. */
export const EVIDENCE_TABLES = ['referrers', 'anchors', 'addresses', 'captures', 'checks', 'history'] as const;
export type EvidenceTable = (typeof EVIDENCE_TABLES)[number];

interface TableSource {
  columns: TableColumn[];
  rows(store: Store, row: DomainRow): EvidenceRow[];
}

const text = (key: string, title: string): TableColumn => ({ key, title, type: 'text' });
const number = (key: string, title: string): TableColumn => ({ key, title, type: 'number' });
const time = (key: string, title: string): TableColumn => ({ key, title, type: 'time' });
const ALL = 1_000_000;
/** Marks of plain content, which the other columns say. */
const PLAIN_MARK = /^(titled |\d+ words$|one word$)/;

const TABLES: Record<EvidenceTable, TableSource> = {
  referrers: {
    columns: [
      text('site', 'From'),
      text('anchor', 'Words'),
      number('pages', 'Pages'),
      number('vote', 'Counts'),
      number('strength', 'Strength'),
      number('trust', 'Trust'),
      text('language', 'Language'),
      text('country', 'Country'),
      time('since', 'Since'),
      time('lost', 'Lost'),
    ],
    rows: (store, row) => referrersOf(store, row).list.map(referrerRow),
  },
  anchors: {
    columns: [
      text('anchor', 'Words'),
      text('kind', 'What they are'),
      number('domains', 'Domains'),
      number('pages', 'Pages'),
    ],
    rows(store, row) {
      const words = row.subject ? subjectWords(row.subject) : new Set<string>();
      return anchorsOf(store, row.id, ALL).map(({ anchor, domains, links }) => ({
        cells: [anchor || 'no words', ANCHOR_WORDS[anchorKind(anchor, row.name, words)], domains, links],
      }));
    },
  },
  addresses: {
    columns: [text('address', 'Address'), number('domains', 'Domains'), number('pages', 'Pages')],
    rows: (store, row) =>
      oldAddresses(store, row.id, ALL).map(({ url, domains, links }) => ({
        cells: [url.replace(/^https?:\/\//, ''), domains, links],
      })),
  },
  captures: {
    columns: [
      time('at', 'Captured'),
      text('kind', 'What it shows'),
      text('title', 'Title'),
      text('language', 'Language'),
      text('subject', 'Subject'),
      text('words', 'Words'),
    ],
    rows: (store, row) =>
      capturesOf(store, row.id).map((capture) => ({
        cells: [
          capture.at,
          capture.redirectTo ? `${capture.kind} to ${capture.redirectTo}` : capture.kind.replace('-', ' '),
          capture.title || null,
          capture.language === null ? null : languageName(capture.language),
          capture.subject === null ? null : subjectTitle(capture.subject),
          [...capture.terms.keys()].slice(0, 8).join(' ') || null,
        ],
        note: capture.marks.filter((mark) => !PLAIN_MARK.test(mark)).join(', ') || undefined,
        href: `/domains/${row.name}/captures?a=${capture.at}`,
      })),
  },
  checks: {
    columns: [
      time('at', 'Asked'),
      text('step', 'By'),
      text('server', 'Server'),
      text('outcome', 'Answer'),
      text('detail', 'In detail'),
      number('ms', 'Took ms'),
    ],
    rows: (store, row) =>
      checksOf(store, row.id).map(({ at, step, server, outcome, detail, elapsedMs }) => ({
        cells: [at, step.toUpperCase(), server, outcome, detail || null, elapsedMs],
      })),
  },
  history: {
    columns: [
      time('at', 'When'),
      text('what', 'What'),
      text('was', 'It was'),
      text('becomes', 'It became'),
      text('who', 'Who says so'),
    ],
    rows: (store, row) =>
      historyOf(store, row, {
        sightings: sightingsOf(store, row.id),
        ticks: ticksOf(store, row.id),
        reviews: markReviewsOf(store, row.id),
      }).map(({ at, what, was, becomes, who, href }) => ({ cells: [at, what, was, becomes, who], href })),
  },
};

export const ANCHOR_WORDS: Record<AnchorKind, string> = {
  name: 'its name',
  address: 'its address',
  generic: 'words put anywhere',
  subject: 'words of its subject',
  money: 'words that sell',
  'other-script': 'another script',
  other: 'other words',
};

/** What keeps a linking page out of a search engine's index, so that its link is no vote. */
const UNINDEXED_WORDS: Record<string, string> = {
  noindex: 'the page asks not to be indexed',
  canonical: 'the page names another as its canonical',
  copy: 'the page is a copy of another',
  'not-content': 'the page is no content',
};

function referrerRow(referrer: Referrer): EvidenceRow {
  const code = countryOfEnding(registrableDomain(referrer.site)?.ending ?? '');
  const discounts = referrer.discounts.map(({ kind, why }) =>
    kind === 'unindexed' && referrer.unindexed
      ? `${why}: ${UNINDEXED_WORDS[referrer.unindexed] ?? referrer.unindexed}`
      : why,
  );
  const look =
    referrer.lookedAt === null
      ? []
      : [referrer.standing === 'there' ? 'still there' : (referrer.lookNote ?? 'looked at again')];
  return {
    cells: [
      referrer.site,
      referrer.lookAnchor ?? (referrer.anchor || 'no words'),
      referrer.pages,
      Math.round(referrer.weight * 100) / 100,
      referrer.strength === null ? null : Math.round(referrer.strength * 10) / 10,
      referrer.trust === null ? null : Math.round(referrer.trust * 10) / 10,
      referrer.language === null ? null : languageName(referrer.language),
      code === null ? null : countryName(code),
      referrer.firstSeenAt,
      referrer.lostAt,
    ],
    note: [...discounts, ...look].join('; ') || undefined,
  };
}

/** A table of a domain's evidence, arranged; `offset` and `limit` cut what is handed out. */
export function tableOf(
  store: Store,
  row: DomainRow,
  table: EvidenceTable,
  ask: TableAsk & { offset: number; limit: number },
): TableView {
  const { columns, rows } = TABLES[table];
  const all = rows(store, row);
  const found = arrange(all, columns, ask);
  return {
    columns,
    rows: found.slice(ask.offset, ask.offset + ask.limit),
    found: found.length,
    total: all.length,
  };
}
