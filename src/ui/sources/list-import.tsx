'use client';

import { useState } from 'react';
import type { ListRow } from '../../core/formats/list-columns';
import { LIST_FIELDS, type ListField, type ListFormat } from '../../core/formats/list-fields';
import { call } from '../api';
import { Labelled, wordsOf } from '../fields';
import { count, money } from '../format';

interface Preview {
  upload: string;
  format: ListFormat;
  readings: (ListRow | string)[];
  remembered: boolean;
  delimiter: string;
  hasHeader: boolean;
  columns: ListField[];
  header: string[] | null;
  rows: string[][];
  charset: string;
  gzip: boolean;
}

const DELIMITERS = [
  [',', 'comma'],
  ['\t', 'tab'],
  [';', 'semicolon'],
  ['|', 'bar'],
] as const;

const FIELD_WORDS: Record<ListField, string> = {
  domain: 'domain',
  phase: 'phase',
  'drop-date': 'drop date',
  closing: 'closes',
  price: 'price',
  currency: 'currency',
  bids: 'bids',
  kind: 'kind of listing',
  venue: 'venue',
  registered: 'registered',
  backlinks: 'backlinks',
  'referring-domains': 'referring domains',
  ignore: 'left out',
};

/** A list file: chosen or dropped, shown as it will be read, corrected, imported. */
export function ListImport({
  excludedEndings,
  onStarted,
}: {
  excludedEndings: string[];
  onStarted(source: { id: number }): void;
}) {
  const [preview, setPreview] = useState<Preview | null>(null);
  const [name, setName] = useState('');
  const [exclusions, setExclusions] = useState(excludedEndings.join(', '));
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState<string | null>(null);

  const attempt = async (what: string, act: () => Promise<void>) => {
    setBusy(what);
    setProblem(null);
    try {
      await act();
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setBusy(null);
    }
  };
  const take = (file: File) =>
    attempt('Looking at the file', async () => {
      setPreview(null);
      setName(file.name.replace(/\.(csv|tsv|txt|jsonl|ndjson|xlsx|gz)$/gi, ''));
      setPreview(await call<Preview>('/sources/lists/preview', { file }));
    });
  const lookAgain = (change: Partial<Preview>) =>
    attempt('Looking again', async () => {
      if (!preview) return;
      const next = { ...preview, ...change };
      setPreview(next);
      const query = new URLSearchParams({
        upload: preview.upload,
        delimiter: next.delimiter,
        header: next.hasHeader ? '1' : '0',
      });
      if (change.columns) query.set('columns', change.columns.join(','));
      setPreview(await call<Preview>(`/sources/lists/preview?${query}`, { method: 'POST' }));
    });
  const start = () =>
    attempt('Starting', async () => {
      if (!preview) return;
      const { upload, delimiter, hasHeader, columns } = preview;
      const body = { upload, name, delimiter, hasHeader, columns, excludedEndings: wordsOf(exclusions) };
      onStarted((await call<{ source: { id: number } }>('/sources/lists', { body })).source);
    });

  return (
    <div className="flex flex-col gap-3">
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the file field inside does the same by keyboard */}
      <div
        className="rounded border border-dashed border-muted px-4 py-5 text-center"
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault();
          const file = event.dataTransfer.files[0];
          if (file) void take(file);
        }}
      >
        <label className="set cursor-pointer focus-within:outline-2 focus-within:outline-damson">
          Choose a list
          <input
            type="file"
            className="sr-only"
            onChange={(event) => event.target.files?.[0] && void take(event.target.files[0])}
          />
        </label>{' '}
        or drop it here.{' '}
        <span className="small block">CSV, TSV, JSON Lines, a workbook or plain text, also gzipped, of any size.</span>
      </div>
      {busy && <p role="status">{busy}</p>}
      {problem && (
        <p role="alert" className="bg-quince px-3 py-2 whitespace-pre-line">
          {problem}
        </p>
      )}
      {preview && (
        <>
          <Labelled label="Name of the source">
            <input className="field w-full" value={name} onChange={(event) => setName(event.target.value)} />
          </Labelled>
          <div className="flex flex-wrap items-center gap-4">
            {preview.format === 'table' && (
              <label className="flex items-center gap-2">
                Columns part at
                <select
                  className="field"
                  value={preview.delimiter}
                  onChange={(event) => void lookAgain({ delimiter: event.target.value })}
                >
                  {DELIMITERS.map(([value, label]) => (
                    <option key={value} value={value}>
                      {label}
                    </option>
                  ))}
                </select>
              </label>
            )}
            {preview.format === 'table' && (
              <label className="flex items-center gap-2">
                <input
                  type="checkbox"
                  checked={preview.hasHeader}
                  onChange={(event) => void lookAgain({ hasHeader: event.target.checked })}
                />
                first row is a header
              </label>
            )}
            <span className="small">
              {preview.format === 'json-lines' ? 'JSON Lines, ' : ''}
              {preview.charset}
              {preview.gzip ? ', gzip' : ''}
              {preview.remembered ? '; columns as the last time this header came' : ''}
            </span>
          </div>
          <ColumnMeanings
            preview={preview}
            onChange={(index, field) =>
              void lookAgain({ columns: preview.columns.map((old, i) => (i === index ? field : old)) })
            }
          />
          <Readings preview={preview} />
          {!preview.columns.includes('domain') && <p role="alert">Mark the column that holds the domain.</p>}
          <Labelled label="Endings that are out" hint="by commas">
            <input
              className="field w-full"
              value={exclusions}
              onChange={(event) => setExclusions(event.target.value)}
            />
          </Labelled>
          <div>
            <button
              type="button"
              className="press"
              disabled={busy !== null || name.trim() === '' || !preview.columns.includes('domain')}
              onClick={() => void start()}
            >
              Import the list
            </button>
          </div>
        </>
      )}
    </div>
  );
}

/** The file's columns on the left, what they mean to us on the right. */
function ColumnMeanings({ preview, onChange }: { preview: Preview; onChange(index: number, field: ListField): void }) {
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
        {preview.columns.map((field, index) => {
          const title = preview.header?.[index] ?? `column ${index + 1}`;
          const values = preview.rows.slice(0, 3).map((row) => row[index] ?? '');
          return (
            <tr key={index} className={`border-b border-faint ${field === 'ignore' ? 'text-muted' : ''}`}>
              <td className="max-w-36 truncate py-0.5 pr-3">{title}</td>
              <td className="max-w-56 truncate pr-3">{values.filter(Boolean).join(' · ')}</td>
              <td>
                <select
                  aria-label={`Meaning of ${title}`}
                  className="field w-full"
                  value={field}
                  onChange={(event) => onChange(index, event.target.value as ListField)}
                >
                  {LIST_FIELDS.map((option) => (
                    <option key={option} value={option}>
                      {FIELD_WORDS[option]}
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

const READING: Record<Exclude<ListField, 'ignore' | 'currency'>, (row: ListRow) => string> = {
  domain: ({ domain }) => domain,
  phase: ({ phase }) => phase?.replace('-', ' ') ?? '',
  'drop-date': ({ dropAt }) => dateOf(dropAt),
  closing: ({ closingAt }) => dateOf(closingAt),
  price: ({ priceMinor, currency }) => money(priceMinor, currency),
  bids: ({ bids }) => count(bids),
  kind: ({ kind }) => kind?.replace('-', ' ') ?? '',
  venue: ({ venue }) => venue ?? '',
  registered: ({ registeredAt }) => dateOf(registeredAt),
  backlinks: ({ backlinks }) => count(backlinks),
  'referring-domains': ({ referringDomains }) => count(referringDomains),
};

/** To the minute where the file says more than a day. */
function dateOf(at: number | null): string {
  if (at === null) return '';
  const text = new Date(at).toISOString();
  return at % 86_400_000 === 0 ? text.slice(0, 10) : `${text.slice(0, 10)} ${text.slice(11, 16)}`;
}

/** The first rows as they will be read; what cannot be read is said where it stands. */
function Readings({ preview }: { preview: Preview }) {
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
