'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { FormProvider, useForm } from 'react-hook-form';
import { z } from 'zod';
import type { Answer } from '../../contracts/calls';
import { REFERRER_FIELDS, type ReferrerCuts, type ReferrerField } from '../../core/formats/referrer-fields';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { FileDrop, Labelled, Problem, Status, useAttempt } from '../fields';
import { AmountLine, ChoiceField, LineField, NumberField, TickField } from '../forms/field';
import { numberOrNone, wordsOf } from '../forms/typed';
import { HEAD, NUMBER, PlainTable, plainColumnsFor } from '../parts/plain-table';
import { nameOfFile } from './use-table-look';

const TYPING_MS = 200;
type Preview = Answer<'POST /sources/referrers/preview'>;
interface Cut {
  label: string;
  /** Rows: those that there are, or, below zero, those that it takes. */
  value: number;
  note?: string;
}
const ofRow = plainColumnsFor<string[]>();
const ofCut = plainColumnsFor<Cut>();
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

const lower = (text: string) => wordsOf(text).map((word) => word.toLowerCase());
const TypedCuts = z.object({
  leastStrength: numberOrNone(),
  seenWithinDays: numberOrNone({ isWhole: true }),
  endingsOut: z.string().transform((text) => lower(text).map((ending) => ending.replace(/^\./, ''))),
  countries: z.string().transform(lower),
  languages: z.string().transform(lower),
  family: z.enum(['', '4', '6']).transform((family) => FAMILIES[family]),
  keepUnknown: z.boolean(),
});
const FAMILIES = { '': null, '4': 4, '6': 6 } as const;

/** A list of the domains that link to a strong site: mapped once, cut, and made seeds or put into the pool. */
export function ReferrersForm({ excludedEndings }: { excludedEndings: string[] }) {
  const router = useRouter();
  const [preview, setPreview] = useState<Preview | null>(null);
  const [name, setName] = useState('');
  const { problem, busy, attempt } = useAttempt();
  const soon = useRef<ReturnType<typeof setTimeout>>(undefined);
  /** Number of the last question; the answer to an earlier one is dropped. */
  const asked = useRef(0);
  const form = useForm<z.input<typeof TypedCuts>, unknown, z.output<typeof TypedCuts>>({
    resolver: zodResolver(TypedCuts),
    mode: 'onChange',
    defaultValues: {
      leastStrength: '',
      seenWithinDays: '',
      family: '',
      endingsOut: excludedEndings.join(', '),
      countries: '',
      languages: '',
      keepUnknown: true,
    },
  });
  /** As they are typed; null while something in them makes no sense, which is said at its field. */
  const cuts = (): ReferrerCuts | null => TypedCuts.safeParse(form.getValues()).data ?? null;
  const look = (columns = preview?.columns) =>
    attempt('Counting', async () => {
      if (!preview) return;
      const typed = cuts();
      if (!typed) return;
      const mine = ++asked.current;
      const body = { upload: preview.upload, columns, cuts: typed };
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
        const typed = cuts();
        if (!preview || !typed) return;
        const { upload, columns } = preview;
        const order = { upload, columns, cuts: typed };
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
        <FormProvider {...form}>
          <form
            noValidate
            onSubmit={(event) => event.preventDefault()}
            onInput={() => lookSoon()}
            className="flex flex-col gap-3"
          >
            {preview.remembered && <p className="small">The columns are those you set for this header before.</p>}
            <div className="max-h-40 overflow-auto border border-rule bg-sheet px-1.5">
              <PlainTable
                label="First rows of the file"
                rows={preview.rows.slice(0, 4)}
                rowId={(_, n) => String(n)}
                columns={preview.header.map((title, place) =>
                  ofRow(
                    `${place} ${title}`,
                    (row) => row[place],
                    { className: 'max-w-36 truncate' },
                    <>
                      <span className="block max-w-28 truncate">{title}</span>
                      <select
                        aria-label={`Meaning of ${title}`}
                        className="field text-ink"
                        value={preview.columns[place] ?? 'ignore'}
                        onChange={(event) => {
                          const columns = preview.header.map((_, i) =>
                            i === place ? (event.target.value as ReferrerField) : (preview.columns[i] ?? 'ignore'),
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
                    </>,
                  ),
                )}
              />
            </div>
            <div className="grid grid-cols-1 lg:grid-cols-3 gap-3">
              <AmountLine name="leastStrength" label="Strength at least" place="small" className="w-full" />
              <NumberField name="seenWithinDays" label="Seen within days" place="small" className="w-full" />
              <ChoiceField
                name="family"
                label="Address family"
                place="small"
                className="w-full"
                options={[
                  ['', 'either'],
                  ['4', 'IPv4'],
                  ['6', 'IPv6'],
                ]}
              />
              <LineField name="endingsOut" label="TLDs out" place="small" />
              <LineField name="countries" label="Countries" place="small" placeholder="any" />
              <LineField name="languages" label="Languages" place="small" placeholder="any" />
            </div>
            <TickField name="keepUnknown">keep rows that do not say</TickField>
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
            <PlainTable
              label="What each cut keeps out"
              isHeadless
              rows={[
                { label: 'rows read', value: preview.read },
                ...preview.aside.map(({ reason, rows, example }) => ({
                  label: `rejected: ${reason}`,
                  note: example,
                  value: -rows,
                })),
                ...(preview.repeated > 0 ? [{ label: 'duplicates', value: -preview.repeated }] : []),
                ...preview.cuts.map(({ cut, removes }) => ({ label: `cut by ${cut}`, value: -removes })),
              ]}
              rowId={({ label }) => label}
              columns={[
                {
                  ...ofCut('What', (cut) => <CutWords {...cut} />, HEAD),
                  footer: () => <span className="font-serif text-title">left</span>,
                },
                {
                  ...ofCut('Rows', ({ value }) => (value < 0 ? `− ${count(-value)}` : count(value)), NUMBER),
                  footer: () => (
                    <span className="font-serif text-title" data-testid="kept">
                      {count(preview.kept)}
                    </span>
                  ),
                },
              ]}
            />
            <p className="small h-6 truncate leading-6">{preview.sample.join(', ')}</p>
            <p className="small">
              Cuts choose the seeds, or what of this file goes to the pool. What they keep out is found all the same
              when a page names it.
            </p>
          </form>
        </FormProvider>
      )}
    </div>
  );
}

function CutWords({ label, note }: Cut) {
  return (
    <span className="block max-w-72 truncate" title={note}>
      {label}
    </span>
  );
}
