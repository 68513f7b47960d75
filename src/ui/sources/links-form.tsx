'use client';

import { useState } from 'react';
import type { Answer } from '../../contracts/calls';
import { LEAVE_OUT, LEFT_OUT_AT_FIRST, type LeaveOut } from '../../core/crawl/leave-out';
import type { LINK_FIELDS } from '../../core/formats/link-rows';
import { call } from '../api';
import { LEAVE_OUT_WORDS } from '../crawl/leave-out-words';
import { FileDrop, Labelled, Problem, Status, wordsOf } from '../fields';
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

interface CutFormProps {
  briefId: number;
  excludedEndings: string[];
  trustedSites: string[];
  onStarted: Started;
}

function CutForm({ briefId, excludedEndings, trustedSites, onStarted }: CutFormProps) {
  const { look, latest, take, lookAgain, problem, busy, attempt } = useTableLook((given) =>
    call('POST /sources/cuts/preview', given),
  );
  const [name, setName] = useState('');
  const [exclusions, setExclusions] = useState(excludedEndings.join(', '));
  const [known, setKnown] = useState(trustedSites.join('\n'));
  const [leaveOut, setLeaveOut] = useState<LeaveOut[]>([...LEFT_OUT_AT_FIRST]);
  const [least, setLeast] = useState(1);
  const [isChecked, setIsChecked] = useState(true);
  const isReady = look?.columns.includes('from') && look.columns.includes('to') && name.trim() !== '';
  const start = () =>
    attempt(
      'Starting',
      async () => {
        if (!latest.current) return;
        const { upload, delimiter, hasHeader, columns } = latest.current;
        const body = {
          upload,
          name,
          delimiter,
          hasHeader,
          columns,
          excludedEndings: wordsOf(exclusions),
          knownSites: wordsOf(known),
          leaveOut,
          briefId,
          leastSites: least,
          checkAfter: isChecked,
        };
        onStarted((await call('POST /sources/cuts', { body })).source);
      },
      { once: true },
    );
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
      {!look && <Problem text={problem} />}
      {look && (
        <>
          <Labelled label="Name of the source">
            <input className="field w-full" value={name} onChange={(event) => setName(event.target.value)} />
          </Labelled>
          <TableShape look={look} onChange={(change) => void lookAgain(change)} />
          <ColumnMeanings look={look} words={FIELD_WORDS} onChange={(columns) => void lookAgain({ columns })} />
          <CutReadings look={look} />
          <Labelled label="Excluded TLDs" hint="by commas">
            <input
              className="field w-full"
              value={exclusions}
              onChange={(event) => setExclusions(event.target.value)}
            />
          </Labelled>
          <Labelled label="Known sites" hint="not wanted: one's own, those everyone links to">
            <textarea
              className="field h-16 w-full resize-y"
              value={known}
              onChange={(event) => setKnown(event.target.value)}
            />
          </Labelled>
          <fieldset className="flex flex-wrap gap-x-5 gap-y-1">
            <legend className="font-semibold">Left out of the finds</legend>
            {LEAVE_OUT.map((cause) => (
              <label key={cause} className="flex items-center gap-2">
                <input
                  type="checkbox"
                  checked={leaveOut.includes(cause)}
                  onChange={(event) =>
                    setLeaveOut(
                      LEAVE_OUT.filter((one) => (one === cause ? event.target.checked : leaveOut.includes(one))),
                    )
                  }
                />
                {LEAVE_OUT_WORDS[cause]}
              </label>
            ))}
          </fieldset>
          <div className="flex items-center gap-6">
            <label className="flex items-center gap-2">
              linked by at least
              <input
                type="number"
                min={1}
                className="field w-16"
                value={least}
                onChange={(event) => setLeast(Math.max(1, Number(event.target.value)))}
              />
              domains
            </label>
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={isChecked} onChange={(event) => setIsChecked(event.target.checked)} />
              check and measure them
            </label>
          </div>
          <div>
            <button type="button" className="press" disabled={!isReady} onClick={() => void start()}>
              Cut the export
            </button>
          </div>
          <Problem text={problem} />
        </>
      )}
    </>
  );
}

/** The first rows as they will be read: from which domain to which. */
function CutReadings({ look }: { look: CutLook }) {
  if (!look.columns.includes('from') || !look.columns.includes('to'))
    return <p role="alert">Mark the linking page and the linked page.</p>;
  return (
    <section aria-labelledby="readings">
      <h2 id="readings">As it will be read</h2>
      <table className="w-full table-fixed">
        <tbody>
          {look.readings.slice(0, 6).map(({ from, to, isInside }, index) => (
            <tr key={index} className="border-b border-faint">
              <td className="truncate py-0.5 pr-3">{from ?? 'no domain'}</td>
              <td className="truncate pr-3">{to ?? 'no domain'}</td>
              <td className="small">
                {isInside ? 'within one domain' : from && to ? 'to an outside domain' : 'rejected'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** The export of a link index: what its columns mean is asked once, and known for the next file with that header. */
function IndexForm({ onStarted }: { onStarted: Started }) {
  const { look, latest, take, lookAgain, problem, busy, attempt } = useTableLook((given) =>
    call('POST /sources/cuts/preview', given),
  );
  const [name, setName] = useState('');
  const [asOf, setAsOf] = useState('');
  const isReady = look?.columns.includes('from') && look.columns.includes('to') && name.trim() !== '';
  const start = () =>
    attempt(
      'Starting',
      async () => {
        if (!latest.current) return;
        const { upload, delimiter, hasHeader, columns } = latest.current;
        const body = { upload, name, delimiter, hasHeader, columns, ...(asOf && { asOf }) };
        onStarted((await call('POST /sources/links', { body })).source);
      },
      { once: true },
    );
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
      {!look && <Problem text={problem} />}
      {look && (
        <>
          <Labelled label="Name of the index" hint="its counts stay beside those of others under this name">
            <input className="field w-full" value={name} onChange={(event) => setName(event.target.value)} />
          </Labelled>
          <Labelled label="Its figures are from" hint="empty: today">
            <input type="date" className="field" value={asOf} onChange={(event) => setAsOf(event.target.value)} />
          </Labelled>
          <TableShape look={look} onChange={(change) => void lookAgain(change)} />
          <ColumnMeanings look={look} words={FIELD_WORDS} onChange={(columns) => void lookAgain({ columns })} />
          <CutReadings look={look} />
          <div>
            <button type="button" className="press" disabled={!isReady} onClick={() => void start()}>
              Import the links
            </button>
          </div>
          <Problem text={problem} />
        </>
      )}
    </>
  );
}
