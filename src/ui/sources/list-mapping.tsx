'use client';

import { utc } from '@date-fns/utc';
import { format } from 'date-fns';
import { useState } from 'react';
import type { Answer } from '../../contracts/calls';
import { isEmptyValue, isNoPrice } from '../../core/formats/amounts';
import type { DateOrder } from '../../core/formats/dates';
import type { ListField, ListFormat } from '../../core/formats/list-fields';
import type { ListRow } from '../../core/formats/list-row';
import type { ColumnTally } from '../../core/formats/tally';
import { count, money } from '../../core/wording/format';
import { LIST_FIELD_WORDS } from '../../core/wording/list-field-words';
import { statusName } from '../../core/wording/status';
import { PlainTable, plainColumnsFor } from '../parts/plain-table';

/** A table as it was recognised. */
export interface TableLook {
  upload: string;
  format: ListFormat;
  delimiter: string;
  hasHeader: boolean;
  header: string[] | null;
  rows: string[][];
  charset: string;
  gzip: boolean;
  /** Whether the columns are those of an earlier file with the same header. */
  remembered: boolean;
}

/** What a person corrects of how a table was read. */
export interface Corrected {
  delimiter?: string;
  hasHeader?: boolean;
  /** Rows before the first that counts, the header the last of them. */
  headRows?: number;
  order?: DateOrder;
  sheet?: string;
}
/** A list as it was recognised, and its first rows as they will be read. */
export type ListLook = Answer<'POST /sources/lists/preview'>;

const DELIMITERS = [
  [',', 'comma'],
  ['\t', 'tab'],
  [';', 'semicolon'],
  ['|', 'bar'],
] as const;

/** Delimiter, header and character set of a table, to be corrected. */
export function TableShape({
  look,
  onChange,
}: {
  look: TableLook & Partial<Pick<ListLook, 'headRows' | 'sheets' | 'sheet'>>;
  onChange(change: Corrected): void;
}) {
  const delimiters = DELIMITERS.some(([value]) => value === look.delimiter)
    ? DELIMITERS
    : [...DELIMITERS, [look.delimiter, look.delimiter === ' ' ? 'space' : look.delimiter] as const];
  return (
    <div className="flex flex-wrap items-center gap-4">
      {look.sheets && look.sheets.length > 0 && (
        <label className="flex items-center gap-2">
          List in
          <select
            className="field max-w-64"
            value={look.sheet ?? ''}
            onChange={(event) => onChange({ sheet: event.target.value })}
          >
            {look.sheets.map((sheet) => (
              <option key={sheet}>{sheet}</option>
            ))}
          </select>
        </label>
      )}
      {look.format === 'table' && (
        <label className="flex items-center gap-2">
          Columns part at
          <select
            className="field"
            value={look.delimiter}
            onChange={(event) => onChange({ delimiter: event.target.value })}
          >
            {delimiters.map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
        </label>
      )}
      {look.format === 'table' && look.headRows !== undefined && (
        <label className="flex items-center gap-2" title="Counted without empty rows; 0: the file has none">
          Header is row
          <input
            type="number"
            min={0}
            max={40}
            className="field w-16"
            value={look.hasHeader ? look.headRows : 0}
            onChange={(event) => {
              const row = Math.max(0, Math.min(40, Math.floor(event.target.valueAsNumber)));
              if (!Number.isNaN(row)) onChange({ headRows: row, hasHeader: row > 0 });
            }}
          />
        </label>
      )}
      {look.format === 'table' && look.headRows === undefined && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={look.hasHeader}
            onChange={(event) => onChange({ hasHeader: event.target.checked })}
          />
          first row is a header
        </label>
      )}
      <span className="small">
        {look.format === 'json-lines' ? 'JSON Lines, ' : ''}
        {look.charset}
        {look.gzip ? ', gzip' : ''}
        {look.remembered ? '; columns as the last time this header came' : ''}
      </span>
    </div>
  );
}

/** Asks what no value of a file tells. */
function DateQuestion({ look, onOrder }: { look: ListLook; onOrder(order: DateOrder): void }) {
  /** What was said, until the file was looked at again. */
  const [picked, setPicked] = useState<DateOrder | null>(null);
  const asked = look.columns.flatMap((field, n) => (DATE_FIELDS.includes(field) && hasStrokes(look, n) ? [n] : []));
  if (asked.length === 0) return null;
  const isUntold = look.untold.length > 0;
  const order = picked ?? look.told[asked[0]].order;
  return (
    <fieldset className={`flex flex-wrap items-center gap-4 px-3 py-1.5 ${isUntold ? 'bg-quince' : ''}`}>
      <legend className="sr-only">Order of day and month</legend>
      <span role={isUntold ? 'alert' : undefined}>
        {isUntold
          ? `Nothing in this file tells whether ${exampleOf(look, asked)} begins with the day or the month. Until you say so, such dates stay unknown.`
          : `Dates such as ${exampleOf(look, asked)} begin with the`}
      </span>
      {(
        [
          ['day-first', 'day'],
          ['month-first', 'month'],
        ] as const
      ).map(([value, label]) => (
        <label key={value} className="flex items-center gap-1.5">
          <input
            type="radio"
            name="order"
            checked={order === value}
            onChange={() => {
              setPicked(value);
              onOrder(value);
            }}
          />
          {label}
        </label>
      ))}
    </fieldset>
  );
}

const DATE_FIELDS: readonly ListField[] = ['drop-date', 'closing', 'registered', 'expires', 'first-seen'];
const STROKES = /^\d{1,2}[-/]\d{1,2}[-/]\d{2,4}/;
const hasStrokes = ({ rows }: ListLook, column: number) => rows.some((row) => STROKES.test((row[column] ?? '').trim()));
const exampleOf = ({ rows }: ListLook, [column]: readonly number[]) =>
  rows.map((row) => (row[column] ?? '').trim()).find((text) => STROKES.test(text)) ?? '05/11/2026';

/** What the columns of a list mean, and its first rows as they will be read. */
export function ListMapping({
  look,
  onChange,
  onOrder,
}: {
  look: ListLook;
  onChange(columns: ListField[]): void;
  onOrder(order: DateOrder): void;
}) {
  return (
    <>
      <DateQuestion look={look} onOrder={onOrder} />
      <ColumnMeanings look={look} words={LIST_FIELD_WORDS} tally={look.tally} onChange={onChange} />
      <Readings preview={look} />
    </>
  );
}

type FileColumn = { field: string; index: number; title: string };
const ofColumn = plainColumnsFor<FileColumn>();

/** The file's columns on the left, what they mean to us on the right. */
export function ColumnMeanings<F extends string>({
  look,
  words,
  tally,
  onChange,
}: {
  look: Pick<TableLook, 'header' | 'rows'> & { columns: F[] };
  /** What became of the cells of the rows that were looked at. */
  tally?: readonly ColumnTally[];
  /** What a column can mean, in the order they are offered. */
  words: Record<F, string>;
  onChange(columns: F[]): void;
}) {
  return (
    <PlainTable<FileColumn>
      label="Columns of the file"
      rows={look.columns.map((field, index) => ({
        field,
        index,
        title: look.header?.[index] ?? `column ${index + 1}`,
      }))}
      rowId={({ index }) => String(index)}
      rowProps={({ field }) => ({ className: field === 'ignore' ? 'text-muted' : '' })}
      columns={[
        ofColumn('In the file', ({ title }) => title, { isHead: true, className: 'max-w-36 truncate' }),
        ofColumn(
          'First values',
          ({ index }) => (
            <>
              <span className="block truncate">
                {look.rows
                  .slice(0, 3)
                  .map((row) => row[index] ?? '')
                  .filter(Boolean)
                  .join(' · ')}
              </span>
              {tally && <TallyWords tally={tally.find(({ column }) => column === index)} />}
            </>
          ),
          { className: 'max-w-56' },
        ),
        ofColumn(
          'Means',
          ({ field, index, title }) => (
            <select
              aria-label={`Meaning of ${title}`}
              className="field w-full"
              value={field}
              onChange={(event) =>
                onChange(look.columns.map((old, i) => (i === index ? (event.target.value as F) : old)))
              }
            >
              {(Object.keys(words) as F[]).map((option) => (
                <option key={option} value={option}>
                  {words[option]}
                </option>
              ))}
            </select>
          ),
          { className: 'w-44' },
        ),
      ]}
    />
  );
}

/** How many values of a column were read, and examples of those that were not understood. */
export function TallyWords({ tally }: { tally: ColumnTally | undefined }) {
  if (!tally) return null;
  const { read, empty, notUnderstood, examples } = tally;
  return (
    <span className="small block">
      {count(read)} read{empty > 0 && `, ${count(empty)} empty`}
      {notUnderstood > 0 && (
        <strong className="font-semibold text-ink">
          , {count(notUnderstood)} not understood: {examples.slice(0, 3).join(' · ')}
        </strong>
      )}
    </span>
  );
}

const READING: Record<Exclude<ListField, 'ignore' | 'currency' | 'tld'>, (row: ListRow) => string> = {
  domain: ({ domain }) => domain,
  phase: ({ phase }) => (phase === null || phase === undefined ? '' : statusName(phase)),
  'drop-date': ({ dropAt }) => dateOf(dropAt),
  closing: ({ closingAt }) => dateOf(closingAt),
  price: ({ priceMinor, currency }) => money(priceMinor, currency),
  bids: ({ bids }) => count(bids),
  kind: ({ kind }) => kind?.replace('-', ' ') ?? '',
  venue: ({ venue }) => venue ?? '',
  reserve: ({ reserve }) => reserve ?? '',
  'listing-url': ({ url }) => url ?? '',
  registered: ({ registeredAt }) => dateOf(registeredAt),
  backlinks: ({ backlinks }) => count(backlinks),
  'referring-domains': ({ referringDomains }) => count(referringDomains),
  expires: ({ expiresAt }) => dateOf(expiresAt),
  'first-seen': ({ firstSeenAt }) => dateOf(firstSeenAt),
  registrar: ({ registrar }) => registrar ?? '',
  traffic: ({ traffic }) => count(traffic),
  keywords: ({ keywords }) => count(keywords),
  position: ({ position }) => (position === null ? '' : String(position)),
  cpc: ({ cpcMinor, cpcCurrency }) => money(cpcMinor, cpcCurrency),
  score: ({ scores }) =>
    scores.map(({ name, value, of }) => `${name} ${value}${of === null ? '' : ` of ${of}`}`).join(', '),
  language: ({ language }) => language ?? '',
  country: ({ country }) => country ?? '',
};

/** To the minute where the file says more than a day. */
function dateOf(at: number | null): string {
  if (at === null) return '';
  return format(utc(at), at % 86_400_000 === 0 ? 'yyyy-MM-dd' : 'yyyy-MM-dd HH:mm');
}

/** What stood where nothing is read: words for nothing, or something that is not understood. */
function Unread({ field, stood }: { field: ListField; stood: string }) {
  const isNothing = field === 'price' ? isNoPrice(stood) : isEmptyValue(stood);
  return (
    <span className={isNothing ? 'text-muted' : ''} title={stood}>
      {isNothing ? '' : 'not read: '}
      {stood.slice(0, 24)}
    </span>
  );
}

const ofFirstRow = plainColumnsFor<{ reading: ListLook['readings'][number]; stood: string[] }>();

/** The first rows as they will be read; what cannot be read is said where it stands. */
function Readings({ preview }: { preview: ListLook }) {
  const fields = (Object.keys(READING) as (keyof typeof READING)[]).filter((field) => preview.columns.includes(field));
  if (!fields.includes('domain')) return null;
  return (
    <section aria-labelledby="readings">
      <h2 id="readings">As it will be read</h2>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reachable by keyboard */}
      <section className="overflow-x-auto" tabIndex={0} aria-label="First rows">
        <PlainTable
          label="First rows as they will be read"
          className="whitespace-nowrap"
          rows={preview.readings.slice(0, 8).map((reading, n) => ({ reading, stood: preview.rows[n] ?? [] }))}
          rowId={(_, n) => String(n)}
          columns={fields.map((field) =>
            ofFirstRow(LIST_FIELD_WORDS[field], ({ reading, stood }) => {
              const written = (stood[preview.columns.indexOf(field)] ?? '').trim();
              if (typeof reading !== 'string')
                return READING[field](reading) || (written && <Unread field={field} stood={written} />);
              return field === fields[0] ? (
                <>
                  <strong className="font-semibold">rejected:</strong> {reading}
                </>
              ) : (
                <span className="text-muted">{written}</span>
              );
            }),
          )}
        />
      </section>
    </section>
  );
}
