'use client';

import { useState } from 'react';
import { LIST_FIELDS, type ListField } from '../../core/formats/list-fields';
import { call } from '../api';
import { Labelled, wordsOf } from '../fields';

interface Preview {
  upload: string;
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
      setName(file.name.replace(/\.(csv|tsv|txt|gz)$/gi, ''));
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
        or drop it here. <span className="small block">CSV, TSV or plain text, also gzipped, of any size.</span>
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
          <div className="flex items-center gap-4">
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
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={preview.hasHeader}
                onChange={(event) => void lookAgain({ hasHeader: event.target.checked })}
              />
              first row is a header
            </label>
            <span className="small">
              {preview.charset}
              {preview.gzip ? ', gzip' : ''}
            </span>
          </div>
          <div className="max-h-72 overflow-auto border border-rule bg-sheet">
            <table className="w-full">
              <thead>
                <tr>
                  {preview.columns.map((field, index) => (
                    <th key={index} className="border-b border-rule p-1 text-left font-normal">
                      <span className="small block max-w-32 truncate">
                        {preview.header?.[index] ?? `column ${index + 1}`}
                      </span>
                      <select
                        aria-label={`Meaning of ${preview.header?.[index] ?? `column ${index + 1}`}`}
                        className="field"
                        value={field}
                        onChange={(event) =>
                          setPreview({
                            ...preview,
                            columns: preview.columns.map((old, i) =>
                              i === index ? (event.target.value as ListField) : old,
                            ),
                          })
                        }
                      >
                        {LIST_FIELDS.map((option) => (
                          <option key={option} value={option}>
                            {FIELD_WORDS[option]}
                          </option>
                        ))}
                      </select>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {preview.rows.slice(0, 8).map((row, index) => (
                  <tr key={index} className="border-b border-faint">
                    {preview.columns.map((field, column) => (
                      <td
                        key={column}
                        className={`max-w-40 truncate px-1.5 py-0.5 ${field === 'ignore' ? 'text-muted line-through' : ''}`}
                      >
                        {row[column]}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
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
