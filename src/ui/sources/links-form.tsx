'use client';

import { useState } from 'react';
import { z } from 'zod';
import type { Answer } from '../../contracts/calls';
import { LEAVE_OUT, LEFT_OUT_AT_FIRST } from '../../core/crawl/leave-out';
import type { LINK_FIELDS } from '../../core/formats/link-rows';
import { call } from '../api';
import { LEAVE_OUT_WORDS } from '../crawl/leave-out-words';
import { FileDrop, Problem, Status } from '../fields';
import { AreaField, LineField, NumberField, TickField } from '../forms/field';
import { Form } from '../forms/form';
import { number, text, words } from '../forms/typed';
import { PlainTable, plainColumnsFor } from '../parts/plain-table';
import { ColumnMeanings, TableShape } from './list-mapping';
import { nameOfFile, useTableLook } from './use-table-look';

type CutLook = Answer<'POST /sources/cuts/preview'>;
type Started = (source: { id: number }) => void;

const FIELD_WORDS = {
  from: 'linking page',
  to: 'linked page',
  anchor: 'anchor text',
  rel: 'rel',
  'first-seen': 'first seen',
  'last-seen': 'last seen',
  ignore: 'left out',
} satisfies Record<(typeof LINK_FIELDS)[number], string>;

/** Links from a file: cut to the outside domains they lead to, or kept one by one. */
export function LinksForm({ briefId, excludedEndings, trustedSites, onStarted }: CutFormProps) {
  const [isCut, setIsCut] = useState(true);
  return (
    <div className="flex flex-col gap-4">
      <fieldset className="flex flex-col gap-1">
        <legend className="font-semibold">What the file is for</legend>
        <label className="flex items-baseline gap-2">
          <input type="radio" name="what" checked={isCut} onChange={() => setIsCut(true)} />
          <span>
            Names to find: an export of what sites link to, of any size. It is cut to outside domains, which are
            checked.
          </span>
        </label>
        <label className="flex items-baseline gap-2">
          <input type="radio" name="what" checked={!isCut} onChange={() => setIsCut(false)} />
          <span>Metrics: an export of backlink data. Every link is kept, and all metrics are measured again.</span>
        </label>
      </fieldset>
      {isCut ? (
        <CutForm
          briefId={briefId}
          excludedEndings={excludedEndings}
          trustedSites={trustedSites}
          onStarted={onStarted}
        />
      ) : (
        <IndexForm onStarted={onStarted} />
      )}
    </div>
  );
}

const TypedCut = z.object({
  name: text('Say what the source is called.'),
  excludedEndings: words,
  knownSites: words,
  leaveOut: z.array(z.enum(LEAVE_OUT)),
  leastSites: number({ least: 1, isWhole: true }),
  checkAfter: z.boolean(),
});
const TypedIndex = z.object({ name: text('Say what the index is called.'), asOf: z.string() });

/** Whether it is known from where to where its links lead. */
const isMapped = ({ columns }: CutLook) => columns.includes('from') && columns.includes('to');

interface CutFormProps {
  briefId: number;
  excludedEndings: string[];
  trustedSites: string[];
  onStarted: Started;
}

function CutForm({ briefId, excludedEndings, trustedSites, onStarted }: CutFormProps) {
  const { look, latest, take, lookAgain, problem, busy } = useTableLook((given) =>
    call('POST /sources/cuts/preview', given),
  );
  const [name, setName] = useState('');
  const start = async (typed: z.output<typeof TypedCut>) => {
    if (!latest.current) return;
    const { upload, delimiter, hasHeader, columns } = latest.current;
    const body = { upload, delimiter, hasHeader, columns, briefId, ...typed };
    onStarted((await call('POST /sources/cuts', { body })).source);
  };
  return (
    <>
      <FileDrop
        label="Choose a link export"
        hint="A row a link: from, to, anchor, rel. From any crawler; tables and JSON Lines, also gzipped."
        onFile={(file) => {
          setName(nameOfFile(file));
          void take(file);
        }}
      />
      <Status text={busy} />
      <Problem text={problem} />
      {look && (
        <Form
          schema={TypedCut}
          values={{
            name,
            excludedEndings: excludedEndings.join(', '),
            knownSites: trustedSites.join('\n'),
            leaveOut: [...LEFT_OUT_AT_FIRST],
            leastSites: '1',
            checkAfter: true,
          }}
          label="Cut the export"
          busyLabel="Starting"
          isOff={!isMapped(look)}
          act={start}
        >
          <LineField name="name" label="Name of the source" />
          <TableShape look={look} onChange={(change) => void lookAgain(change)} />
          <ColumnMeanings look={look} words={FIELD_WORDS} onChange={(columns) => void lookAgain({ columns })} />
          <CutReadings look={look} />
          <LineField name="excludedEndings" label="Excluded TLDs" hint="by commas" />
          <AreaField
            name="knownSites"
            label="Known sites"
            hint="not wanted: one's own, those everyone links to"
            className="h-16 w-full resize-y"
          />
          <fieldset className="flex flex-wrap gap-x-5 gap-y-1">
            <legend className="font-semibold">Left out of the finds</legend>
            {LEAVE_OUT.map((cause) => (
              <TickField key={cause} name="leaveOut" value={cause}>
                {LEAVE_OUT_WORDS[cause]}
              </TickField>
            ))}
          </fieldset>
          <div className="flex items-center gap-6">
            <NumberField name="leastSites" label="linked by at least" unit="domains" place="before" className="w-16" />
            <TickField name="checkAfter">check and measure them</TickField>
          </div>
        </Form>
      )}
    </>
  );
}

const ofReading = plainColumnsFor<CutLook['readings'][number]>();

/** The first rows as they will be read: from which domain to which. */
function CutReadings({ look }: { look: CutLook }) {
  if (!isMapped(look)) return <p role="alert">Mark the linking page and the linked page.</p>;
  return (
    <section aria-labelledby="readings">
      <h2 id="readings">As it will be read</h2>
      <PlainTable
        label="As it will be read"
        className="table-fixed"
        rows={look.readings.slice(0, 6)}
        rowId={(_, n) => String(n)}
        columns={[
          ofReading('From', ({ from }) => from ?? 'no domain', { className: 'truncate' }),
          ofReading('To', ({ to }) => to ?? 'no domain', { className: 'truncate' }),
          ofReading(
            'Which is',
            ({ from, to, isInside }) =>
              isInside ? 'within one domain' : from && to ? 'to an outside domain' : 'rejected',
            { className: 'small' },
          ),
        ]}
      />
    </section>
  );
}

/** The export of a link index: what its columns mean is asked once, and known for the next file with that header. */
function IndexForm({ onStarted }: { onStarted: Started }) {
  const { look, latest, take, lookAgain, problem, busy } = useTableLook((given) =>
    call('POST /sources/cuts/preview', given),
  );
  const [name, setName] = useState('');
  const start = async ({ name: index, asOf }: z.output<typeof TypedIndex>) => {
    if (!latest.current) return;
    const { upload, delimiter, hasHeader, columns } = latest.current;
    const body = { upload, name: index, delimiter, hasHeader, columns, ...(asOf && { asOf }) };
    onStarted((await call('POST /sources/links', { body })).source);
  };
  return (
    <>
      <FileDrop
        label="Choose an export of backlink data"
        hint="A row a link, any columns: linking page, linked page, anchor, rel, dates. Plain or gzipped."
        onFile={(file) => {
          setName(nameOfFile(file));
          void take(file);
        }}
      />
      <Status text={busy} />
      <Problem text={problem} />
      {look && (
        <Form
          schema={TypedIndex}
          values={{ name, asOf: '' }}
          label="Import the links"
          busyLabel="Starting"
          isOff={!isMapped(look)}
          act={start}
        >
          <LineField
            name="name"
            label="Name of the index"
            hint="its counts stay beside those of others under this name"
          />
          <LineField name="asOf" label="Its figures are from" hint="empty: today" type="date" className="" />
          <TableShape look={look} onChange={(change) => void lookAgain(change)} />
          <ColumnMeanings look={look} words={FIELD_WORDS} onChange={(columns) => void lookAgain({ columns })} />
          <CutReadings look={look} />
        </Form>
      )}
    </>
  );
}
