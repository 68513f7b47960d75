'use client';

import type { Answer } from '../../contracts/calls';
import type { ListRow } from '../../core/formats/list-columns';
import type { ListField, ListFormat } from '../../core/formats/list-fields';
import { count, money } from '../../core/wording/format';

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
/** A list as it was recognised, and its first rows as they will be read. */
export type ListLook = Answer<'POST /sources/lists/preview'>;

const DELIMITERS = [
  [',', 'comma'],
  ['\t', 'tab'],
  [';', 'semicolon'],
  ['|', 'bar'],
] as const;

const FIELD_WORDS: Record<ListField, string> = {
  domain: 'domain',
  tld: 'TLD',
  phase: 'phase',
  'drop-date': 'drop date',
  closing: 'closes',
  price: 'price',
  currency: 'currency',
  bids: 'bids',
  kind: 'kind of listing',
  venue: 'venue',
  reserve: 'reserve',
  'listing-url': 'page of the listing',
  registered: 'registered',
  expires: 'expires',
  'first-seen': 'first seen',
  registrar: 'registrar',
  backlinks: 'backlinks',
  'referring-domains': 'referring domains',
  traffic: 'visits a month',
  keywords: 'keywords',
  position: 'position',
  cpc: 'cost per click',
  score: 'score of theirs',
  language: 'language',
  country: 'country',
  ignore: 'left out',
};

/** Delimiter, header and character set of a table, to be corrected. */
export function TableShape({
  look,
  onChange,
}: {
  look: TableLook;
  onChange(change: { delimiter?: string; hasHeader?: boolean }): void;
}) {
  return (
    <div className="flex flex-wrap items-center gap-4">
      {look.format === 'table' && (
        <label className="flex items-center gap-2">
          Columns part at
          <select
            className="field"
            value={look.delimiter}
            onChange={(event) => onChange({ delimiter: event.target.value })}
          >
            {DELIMITERS.map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
        </label>
      )}
      {look.format === 'table' && (
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

/** What the columns of a list mean, and its first rows as they will be read. */
export function ListMapping({ look, onChange }: { look: ListLook; onChange(columns: ListField[]): void }) {
  return (
    <>
      <ColumnMeanings look={look} words={FIELD_WORDS} onChange={onChange} />
      <Readings preview={look} />
    </>
  );
}

/** The file's columns on the left, what they mean to us on the right. */
export function ColumnMeanings<F extends string>({
  look,
  words,
  onChange,
}: {
  look: Pick<TableLook, 'header' | 'rows'> & { columns: F[] };
  /** What a column can mean, in the order they are offered. */
  words: Record<F, string>;
  onChange(columns: F[]): void;
}) {
  return (
    <table className="w-full">
      <thead>
        <tr className="small border-b border-rule text-left">
          <th className="py-1 font-normal">In the file</th>
          <th className="font-normal">First values</th>
          <th className="w-44 font-normal">Means</th>
        </tr>
      </thead>
      <tbody>
        {look.columns.map((field, index) => {
          const title = look.header?.[index] ?? `column ${index + 1}`;
          const values = look.rows.slice(0, 3).map((row) => row[index] ?? '');
          return (
            <tr key={index} className={`border-b border-faint ${field === 'ignore' ? 'text-muted' : ''}`}>
              <td className="max-w-36 truncate py-0.5 pr-3">{title}</td>
              <td className="max-w-56 truncate pr-3">{values.filter(Boolean).join(' · ')}</td>
              <td>
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
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const READING: Record<Exclude<ListField, 'ignore' | 'currency' | 'tld'>, (row: ListRow) => string> = {
  domain: ({ domain }) => domain,
  phase: ({ phase }) => phase?.replace('-', ' ') ?? '',
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
  cpc: ({ cpcMinor }) => money(cpcMinor, null),
  score: ({ scores }) =>
    scores.map(({ name, value, of }) => `${name} ${value}${of === null ? '' : ` of ${of}`}`).join(', '),
  language: ({ language }) => language ?? '',
  country: ({ country }) => country ?? '',
};

/** To the minute where the file says more than a day. */
function dateOf(at: number | null): string {
  if (at === null) return '';
  const text = new Date(at).toISOString();
  return at % 86_400_000 === 0 ? text.slice(0, 10) : `${text.slice(0, 10)} ${text.slice(11, 16)}`;
}

/** The first rows as they will be read; what cannot be read is said where it stands. */
function Readings({ preview }: { preview: ListLook }) {
  const fields = (Object.keys(READING) as (keyof typeof READING)[]).filter((field) => preview.columns.includes(field));
  if (!fields.includes('domain')) return null;
  return (
    <section aria-labelledby="readings">
      <h2 id="readings">As it will be read</h2>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reachable by keyboard */}
      <section className="overflow-x-auto" tabIndex={0} aria-label="First rows">
        <table className="w-full whitespace-nowrap">
          <thead>
            <tr className="small border-b border-rule text-left">
              {fields.map((field) => (
                <th key={field} className="py-1 pr-4 font-normal">
                  {FIELD_WORDS[field]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {preview.readings.slice(0, 8).map((reading, index) =>
              typeof reading === 'string' ? (
                <tr key={index} className="border-b border-faint">
                  <td colSpan={fields.length} className="py-0.5">
                    <strong className="font-semibold">set aside:</strong> {reading}
                  </td>
                </tr>
              ) : (
                <tr key={index} className="border-b border-faint">
                  {fields.map((field) => {
                    const read = READING[field](reading);
                    const stood = (preview.rows[index]?.[preview.columns.indexOf(field)] ?? '').trim();
                    return (
                      <td key={field} className="py-0.5 pr-4">
                        {read || (stood && <span title={stood}>not read: {stood.slice(0, 24)}</span>)}
                      </td>
                    );
                  })}
                </tr>
              ),
            )}
          </tbody>
        </table>
      </section>
    </section>
  );
}
