'use client';

import { useState } from 'react';
import { z } from 'zod';
import { call } from '../api';
import { FileDrop, Problem, Status } from '../fields';
import { LineField } from '../forms/field';
import { Form } from '../forms/form';
import { text, words } from '../forms/typed';
import { ListMapping, TableShape } from './list-mapping';
import { nameOfFile, useTableLook } from './use-table-look';

const TypedListImport = z.object({ name: text('Say what the source is called.'), excludedEndings: words });

/** A list file: chosen or dropped, shown as it will be read, corrected, imported. */
export function ListImport({
  excludedEndings,
  onStarted,
}: {
  excludedEndings: string[];
  onStarted(source: { id: number }): void;
}) {
  const { look, latest, chosen, take, lookAgain, problem, busy } = useTableLook((given) =>
    call('POST /sources/lists/preview', given),
  );
  const [name, setName] = useState('');
  const start = async (typed: z.output<typeof TypedListImport>) => {
    if (!latest.current) return;
    const { upload, delimiter, hasHeader, headRows, sheet, columns } = latest.current;
    const { order = null } = chosen.current;
    const read = { upload, delimiter, hasHeader, headRows, sheet, order, columns };
    onStarted((await call('POST /sources/lists', { body: { ...read, ...typed } })).source);
  };
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
      <Problem text={problem} />
      {look && (
        <Form
          schema={TypedListImport}
          values={{ name, excludedEndings: excludedEndings.join(', ') }}
          label="Import the list"
          busyLabel="Starting"
          className="gap-3"
          isOff={!look.columns.includes('domain')}
          act={start}
        >
          <LineField name="name" label="Name of the source" />
          <TableShape look={look} onChange={(change) => void lookAgain(change)} />
          <ListMapping
            look={look}
            onChange={(columns) => void lookAgain({ columns })}
            onOrder={(order) => void lookAgain({ order })}
          />
          {!look.columns.includes('domain') && <p role="alert">Mark the column that holds the domain.</p>}
          <LineField name="excludedEndings" label="Excluded TLDs" hint="by commas" />
        </Form>
      )}
    </div>
  );
}
