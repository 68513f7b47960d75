import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { PHASES } from '../../core/lifecycle/phases';
import { formatView, parseView } from '../../core/pool/conditions';
import type { DomainView } from '../../core/pool/domain-view';
import { JUDGEMENTS, SHOWN_NUMBERS } from '../../core/pool/facts';
import { columnsOfRows, ROW_FIELDS, rowsOfColumns } from '../../core/pool/row-columns';
import { ServerState } from '../server-state';
// cells that come later are there before the screen is: what loads after the last test fails another file
import '../decision/cells';
import { COLUMNS, fieldsOf } from './columns';

const [UNKNOWN] = rowsOfColumns({ id: [7], name: ['tarnhives.org'], fields: {} });
const NOW = Date.UTC(2026, 10, 29);
const DAY = 86_400_000;

/** A row of which everything is known. */
function known(): DomainView {
  const row = { ...UNKNOWN } as unknown as Record<string, unknown>;
  for (const field of ROW_FIELDS) {
    if (row[field] === null) row[field] = /At$/.test(field) ? NOW - 40 * DAY : 12;
    if (row[field] === false) row[field] = true;
  }
  const words = ['phaseReason', 'phaseSource', 'pastSource', 'countFrom', 'subject', 'area', 'forwardsTo', 'venue'];
  for (const field of [...words, 'listingUrl', 'registrar', 'judgedReason', 'nameSubject']) row[field] = `a ${field}`;
  const window = { from: NOW + DAY, to: NOW + 3 * DAY, isConditional: true, reasons: ['the record'] };
  return {
    ...row,
    window,
    phase: 'pending-delete',
    listing: 'auction',
    currency: 'EUR',
    homeCurrency: 'EUR',
    language: 'en',
    watched: 'by hand',
    capturesByYear: [{ year: 2011, captures: 9 }],
    starts: [0, 4],
    matches: [{ start: 0, end: 4, isWord: true }],
    freshIn: [3],
  } as DomainView;
}

/** Rows in the states that columns draw in different ways. */
function rows(): DomainView[] {
  const all = known();
  return [
    all,
    ...PHASES.map((phase) => ({ ...all, phase })),
    ...PHASES.map((phase) => ({ ...all, phase, isOwn: false, window: null, isUnasked: false })),
    ...JUDGEMENTS.map((judged) => ({ ...all, judged })),
    ...(['phaseAt', 'homeMinor', 'spamRisk', 'trust', 'linksAt', 'subject', 'capturesAt'] as const).map((gone) => ({ ...all, [gone]: null })),
    { ...all, listing: 'offer', offers: 1, priceMinor: null, homeMinor: null },
    UNKNOWN,
  ]; // biome-ignore format: a kind a line
}

describe('a column', () => {
  it.each(COLUMNS.map((column) => [column.id, column] as const))(
    'draws %s of the fields that it asks for',
    (id, column) => {
      const fields = fieldsOf({
        shown: [
          { id: 'domain', width: null },
          { id, width: null },
        ],
        pinned: 1,
      });
      const drawn = (of: DomainView) => [
        column.text(of, NOW),
        column.origin(of, NOW),
        renderToStaticMarkup(<ServerState>{column.cell(of, NOW, column.width)}</ServerState>),
      ];
      const carried = JSON.parse(JSON.stringify(columnsOfRows(rows(), fields)));
      expect(rowsOfColumns(carried).map(drawn)).toEqual(rows().map(drawn));
      expect(rowsOfColumns(columnsOfRows(rows().slice(0, 1), fields)).map(drawn)).toEqual(
        rows().slice(0, 1).map(drawn),
      );
    },
  );
});

it('each column and each figure comes back from the address that shows it, and sifts and sorts by it', () => {
  const shown = COLUMNS.map(({ id }) => ({ id, width: null }));
  for (let at = 0; at < shown.length; at += 10) {
    const columns = { shown: shown.slice(at, at + 10), pinned: 1 };
    const address = formatView({ parts: [], sorts: [], columns });
    expect(parseView(address).columns).toEqual(columns);
  }
  for (const fact of SHOWN_NUMBERS) {
    const range = { type: 'range', fact, min: 1, max: 5, keepUnknown: false } as const;
    const sorts = [{ fact, descending: true }];
    const { parts, sorts: sorted, problems } = parseView(formatView({ parts: [range], sorts, columns: null }));
    expect([fact, parts, sorted, problems]).toEqual([fact, [expect.objectContaining(range)], sorts, []]);
  }
});
