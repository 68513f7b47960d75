'use client';

import { useState } from 'react';
import { call } from '../api';
import { FileDrop, Labelled, Problem, Status, wordsOf } from '../fields';
import { ListMapping, TableShape } from './list-mapping';
import { nameOfFile, useTableLook } from './use-table-look';

/** A list file: chosen or dropped, shown as it will be read, corrected, imported. */
export function ListImport({
  excludedEndings,
  onStarted,
}: {
  excludedEndings: string[];
  onStarted(source: { id: number }): void;
}) {
  const { look, latest, chosen, take, lookAgain, problem, busy, attempt } = useTableLook((given) =>
    call('POST /sources/lists/preview', given),
  );
  const [name, setName] = useState('');
  const [exclusions, setExclusions] = useState(excludedEndings.join(', '));
  const start = () =>
    attempt(
      'Starting',
      async () => {
        if (!latest.current) return;
        const { upload, delimiter, hasHeader, headRows, sheet, columns } = latest.current;
        const { order = null } = chosen.current;
        const read = { upload, delimiter, hasHeader, headRows, sheet, order, columns };
        const body = { ...read, name, excludedEndings: wordsOf(exclusions) };
        onStarted((await call('POST /sources/lists', { body })).source);
      },
      { once: true },
    );

  return (
    // columns want the whole page while they are looked at
    <div className="flex flex-col gap-3" data-wide={look ? '' : undefined}>
      <FileDrop
        label="Choose a list"
        hint="Tables with any delimiter, plain text, workbooks (XLSX, ODS), JSON, XML, web pages, zone files, Parquet; also packed (ZIP, gzip, zstd, bzip2)."
        onFile={(file) => {
          setName(nameOfFile(file));
          void take(file);
        }}
      />
      <Status text={busy} />
      {!look && <Problem text={problem} />}
      {look && (
        <>
          <Labelled label="Name of the source">
            <input className="field w-full" value={name} onChange={(event) => setName(event.target.value)} />
          </Labelled>
          <TableShape look={look} onChange={(change) => void lookAgain(change)} />
          <ListMapping
            look={look}
            onChange={(columns) => void lookAgain({ columns })}
            onOrder={(order) => void lookAgain({ order })}
          />
          {!look.columns.includes('domain') && <p role="alert">Mark the column that holds the domain.</p>}
          <Labelled label="Excluded TLDs" hint="by commas">
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
              disabled={name.trim() === '' || !look.columns.includes('domain')}
              onClick={() => void start()}
            >
              Import the list
            </button>
          </div>
          <Problem text={problem} />
        </>
      )}
    </div>
  );
}
