'use client';

import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import type { Answer } from '../../contracts/calls';
import { REFERRER_FIELDS, type ReferrerCuts, type ReferrerField } from '../../core/formats/referrer-fields';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { FileDrop, Labelled, Problem, Status, useAttempt, wordsOf } from '../fields';
import { nameOfFile } from './use-table-look';

const TYPING_MS = 200;
type Preview = Answer<'POST /sources/referrers/preview'>;
const FIELD_WORDS: Record<ReferrerField, string> = {
  domain: 'referring domain',
  strength: 'strength',
  'last-seen': 'last seen',
  country: 'country',
  language: 'language',
  address: 'IP address',
  links: 'links',
  ignore: 'left out',
};

/** A list of the domains that link to a strong site: mapped once, cut, and made seeds or put into the pool. */
export function ReferrersForm({ excludedEndings }: { excludedEndings: string[] }) {
  const router = useRouter();
  const [preview, setPreview] = useState<Preview | null>(null);
  const [name, setName] = useState('');
  const { problem, busy, attempt } = useAttempt();
  const soon = useRef<ReturnType<typeof setTimeout>>(undefined);
  const form = useRef<HTMLFormElement>(null);
  /** Number of the last question; the answer to an earlier one is dropped. */
  const asked = useRef(0);

  const cuts = (): ReferrerCuts => {
    const values = new FormData(form.current ?? undefined);
    const number = (key: string) => (values.get(key) ? Number(values.get(key)) : null);
    const lower = (key: string) => wordsOf(values.get(key)).map((word) => word.toLowerCase());
    return {
      leastStrength: number('leastStrength'),
      seenWithinDays: number('seenWithinDays'),
      endingsOut: lower('endingsOut').map((ending) => ending.replace(/^\./, '')),
      countries: lower('countries'),
      languages: lower('languages'),
      family: number('family') as 4 | 6 | null,
      keepUnknown: values.get('keepUnknown') === 'on',
    };
  };
  const look = (columns = preview?.columns) =>
    attempt('Counting', async () => {
      if (!preview) return;
      const mine = ++asked.current;
      const body = { upload: preview.upload, columns, cuts: cuts() };
      const answer = await call('POST /sources/referrers/preview', { body });
      // that its columns were known stays said, whatever is counted anew
      if (mine === asked.current) setPreview((before) => ({ ...answer, remembered: before?.remembered ?? false }));
    });
  /** Counts follow what is typed. */
  const lookSoon = () => {
    clearTimeout(soon.current);
    soon.current = setTimeout(() => void look(), TYPING_MS);
  };
  const take = (to: 'seeds' | 'pool') =>
    attempt(
      to === 'seeds' ? 'Making seeds' : 'Taking them into the pool',
      async () => {
        clearTimeout(soon.current);
        if (!preview) return;
        const { upload, columns } = preview;
        const order = { upload, columns, cuts: cuts() };
        const taken = await call('POST /sources/referrers', { body: { ...order, name, to } });
        if (taken.source) router.push(`/sources/${taken.source.id}`);
        else {
          const { job } = await call('POST /sources/crawls/trials', { body: { seeds: taken.seeds } });
          router.push(`/sources/trials/${job.id}`);
        }
      },
      { once: true },
    );

  return (
    <div className="flex flex-col gap-3">
      <FileDrop
        label="Choose a referrer file"
        hint="The domains that link to a site that does well: CSV, TSV or a workbook, from any index."
        onFile={(file) => {
          setName(nameOfFile(file));
          void attempt('Reading the file', async () =>
            setPreview(await call('POST /sources/referrers/preview', { file })),
          );
        }}
      />
      <Status text={busy} />
      {!preview && <Problem text={problem} />}
      {preview && (
        <form
          ref={form}
          onSubmit={(event) => event.preventDefault()}
          onInput={() => lookSoon()}
          className="flex flex-col gap-3"
        >
          {preview.remembered && <p className="small">The columns are those you set for this header before.</p>}
          <div className="max-h-40 overflow-auto border border-rule bg-sheet">
            <table className="w-full">
              <thead>
                <tr>
                  {preview.header.map((title, index) => (
                    <th key={index} className="border-b border-rule p-1 text-left font-normal">
                      <span className="small block max-w-28 truncate">{title}</span>
                      <select
                        aria-label={`Meaning of ${title}`}
                        className="field"
                        value={preview.columns[index] ?? 'ignore'}
                        onChange={(event) => {
                          const columns = preview.header.map((_, i) =>
                            i === index ? (event.target.value as ReferrerField) : (preview.columns[i] ?? 'ignore'),
                          );
                          void look(columns);
                        }}
                      >
                        {REFERRER_FIELDS.map((field) => (
                          <option key={field} value={field}>
                            {FIELD_WORDS[field]}
                          </option>
                        ))}
                      </select>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {preview.rows.slice(0, 4).map((row, index) => (
                  <tr key={index} className="border-b border-faint">
                    {preview.header.map((_, column) => (
                      <td key={column} className="max-w-36 truncate px-1.5 py-0.5">
                        {row[column]}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <div className="grid grid-cols-1 lg:grid-cols-3 gap-3">
            <Cut label="Strength at least">
              <input name="leastStrength" type="number" className="field w-full" />
            </Cut>
            <Cut label="Seen within days">
              <input name="seenWithinDays" type="number" min={0} className="field w-full" />
            </Cut>
            <Cut label="Address family">
              <select name="family" className="field w-full">
                <option value="">either</option>
                <option value="4">IPv4</option>
                <option value="6">IPv6</option>
              </select>
            </Cut>
            <Cut label="TLDs out">
              <input name="endingsOut" className="field w-full" defaultValue={excludedEndings.join(', ')} />
            </Cut>
            <Cut label="Countries">
              <input name="countries" className="field w-full" placeholder="any" />
            </Cut>
            <Cut label="Languages">
              <input name="languages" className="field w-full" placeholder="any" />
            </Cut>
          </div>
          <label className="flex items-center gap-2">
            <input type="checkbox" name="keepUnknown" defaultChecked />
            keep rows that do not say
          </label>
          <Labelled label="Name of the source">
            <input className="field w-full" value={name} onChange={(event) => setName(event.target.value)} />
          </Labelled>
          <div className="flex gap-2">
            <button
              type="button"
              className="press min-w-52"
              aria-disabled={preview.kept === 0}
              onClick={() => void take('seeds')}
            >
              Try {count(preview.kept)} as seeds
            </button>
            <button
              type="button"
              className="quiet"
              aria-disabled={preview.kept === 0}
              onClick={() => void take('pool')}
            >
              Put them into the pool
            </button>
          </div>
          <Problem text={problem} />
          <table className="w-full" aria-label="What each cut keeps out">
            <tbody>
              <Line label="rows read" value={preview.read} />
              {preview.aside.map(({ reason, rows, example }) => (
                <Line key={reason} label={`rejected: ${reason}`} note={example} value={-rows} />
              ))}
              {preview.repeated > 0 && <Line label="duplicates" value={-preview.repeated} />}
              {preview.cuts.map(({ cut, removes }) => (
                <Line key={cut} label={`cut by ${cut}`} value={-removes} />
              ))}
              <tr className="border-t-2 border-ink">
                <th scope="row" className="py-1.5 text-left font-serif text-title font-semibold">
                  left
                </th>
                <td className="text-right font-serif text-title font-semibold" data-testid="kept">
                  {count(preview.kept)}
                </td>
              </tr>
            </tbody>
          </table>
          <p className="small h-6 truncate leading-6">{preview.sample.join(', ')}</p>
          <p className="small">
            Cuts choose the seeds, or what of this file goes to the pool. What they keep out is found all the same when
            a page names it.
          </p>
        </form>
      )}
    </div>
  );
}

function Cut({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the field is given as the child
    <label className="block">
      <span className="small block">{label}</span>
      {children}
    </label>
  );
}

function Line({ label, value, note }: { label: string; value: number; note?: string }) {
  return (
    <tr className="border-t border-rule">
      <th scope="row" className="max-w-72 truncate py-1 text-left font-normal" title={note}>
        {label}
      </th>
      <td className="text-right">{value < 0 ? `− ${count(-value)}` : count(value)}</td>
    </tr>
  );
}
