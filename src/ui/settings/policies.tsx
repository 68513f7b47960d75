'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import { type Days, type LifePolicy, POLICIES, policyFor } from '../../core/lifecycle/policies';
import { call } from '../api';
import { LineField, TickField } from '../forms/field';
import { Form } from '../forms/form';
import { readBy } from '../forms/typed';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useRedraw } from '../server-state';

const DAY_FIELDS = [
  ['autoRenewDays', 'Auto-renew'],
  ['redemptionDays', 'Redemption'],
  ['pendingDeleteDays', 'Pending delete'],
] as const;

/** Those that most lists are of, and what is assumed for the rest. */
const SHOWN = new Set(['com', 'net', 'org', 'info', 'uk', 'de', 'eu', 'fr', 'nl', 'me', 'io', 'co', '*']);
const WEEKDAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];

const written = ([shortest, longest]: Days) => (shortest === longest ? String(longest) : `${shortest} to ${longest}`);

/** "30" or "0 to 45". @throws on what is neither. */
function readPair(text: string): Days {
  const found = /^\s*(\d{1,3})\s*(?:(?:to|-|–)\s*(\d{1,3}))?\s*$/.exec(text);
  if (!found) throw new Error(`"${text.slice(0, 30)}" is not understood: write it like 30 or 0 to 45.`);
  return [Number(found[1]), Number(found[2] ?? found[1])];
}

const pair = readBy(readPair);
const endingOf = (text: string) => text.trim().toLowerCase().replace(/^\./, '');
const TypedPolicy = z.object({
  ending: z
    .string()
    .transform(endingOf)
    .pipe(z.string().regex(/^(\*|[a-z0-9-]+(\.[a-z0-9-]+)*)$/, 'An ending is written like org or co.uk.')),
  autoRenewDays: pair,
  redemptionDays: pair,
  pendingDeleteDays: pair,
  dropHours: pair,
  isExpiryMoved: z.boolean(),
  reference: z.string().transform((text) => text.trim() || 'set by hand'),
});

type PolicyRow = LifePolicy & { name: string };
const column = columnsFor<PolicyRow>();

const hoursWords = ({ dropHours, dropWeekdays }: PolicyRow) =>
  [dropHours.join(' to '), ...(dropWeekdays ? [dropWeekdays.map((one) => WEEKDAYS[one]).join(', ')] : [])].join(', ');

const groundWords = ({ reference, isExpiryMoved, marginDays }: PolicyRow) =>
  [
    reference,
    ...(isExpiryMoved ? ['registration data shows the next expiry at once'] : []),
    ...(marginDays === undefined ? [] : [`${marginDays} days either way`]),
  ].join('; ');

/** The grace periods of endings: what registries publish, and where the person knows better, their own. */
export function Policies({ own }: { own: LifePolicy[] }) {
  const redraw = useRedraw();
  const [ending, setEnding] = useState<string | null>(null);
  const [wanted, setWanted] = useState('');
  const all = [...new Set([...own.map((policy) => policy.ending), ...POLICIES.map((policy) => policy.ending)])];
  const sought = endingOf(wanted);
  const endings = all.filter((name) =>
    sought === '' ? SHOWN.has(name) || own.some((policy) => policy.ending === name) : name.startsWith(sought),
  );
  const keep = async (policies: LifePolicy[], words: string) => {
    await call('PATCH /settings', { body: { policies } });
    toast(words, {
      action: {
        label: 'Undo',
        onClick: () => void call('PATCH /settings', { body: { policies: own } }).then(redraw),
      },
    });
    setEnding(null);
    redraw();
  };
  const columns = [
    column.accessor('ending', {
      header: 'TLD',
      cell: ({ row }) => (row.original.name === '*' ? 'all others' : `.${row.original.name}`),
      meta: { isHead: true, className: 'align-top font-semibold whitespace-nowrap' },
    }),
    ...DAY_FIELDS.map(([key, title]) =>
      column.accessor((row) => written(row[key]), {
        id: key,
        header: title,
        meta: { className: 'align-top whitespace-nowrap' },
      }),
    ),
    column.accessor(hoursWords, {
      id: 'dropHours',
      header: 'Drop hours',
      meta: { className: 'align-top whitespace-nowrap' },
    }),
    column.accessor(groundWords, {
      id: 'reference',
      header: 'Where it stands',
      meta: { className: 'small align-top' },
    }),
    column.display({
      id: 'acts',
      header: () => <span className="sr-only">Change it</span>,
      meta: { className: 'text-right align-top whitespace-nowrap' },
      cell: ({ row: { original: policy } }) => (
        <>
          <button type="button" className="set" onClick={() => setEnding(policy.name)}>
            change
          </button>
          {own.some((one) => one.ending === policy.name) && (
            <button
              type="button"
              className="set ml-2"
              onClick={() =>
                void keep(
                  own.filter((one) => one.ending !== policy.name),
                  `.${policy.name} goes by what is published again`,
                )
              }
            >
              as published
            </button>
          )}
        </>
      ),
    }),
  ];
  const edited = ending === null ? null : policyFor(ending === '' ? '*' : ending, own);
  return (
    <section aria-labelledby="policies">
      <h2 id="policies">The life of a name after its expiry, by TLD</h2>
      <p className="small mb-1">
        Days of each stage, and the hours, UTC, at which names are set free. By the rules of registries, most of them
        from memory and so with a margin; yours go first.
      </p>
      <p className="mb-1 flex items-baseline gap-2">
        <label>
          Find an ending{' '}
          <input
            className="field w-28"
            value={wanted}
            maxLength={40}
            onChange={(event) => setWanted(event.target.value)}
          />
        </label>
        <span className="small" role="status">
          {sought === ''
            ? `${endings.length} of ${all.length} are shown`
            : endings.length === 0
              ? `none begins with .${sought}: it goes by what is assumed for all others`
              : `${endings.length} of ${all.length}`}
        </span>
      </p>
      <Table
        label="Rules by TLD"
        columns={columns}
        rows={endings.map((name) => ({ ...policyFor(name, own), name }))}
        rowId={({ name }) => name}
        rowProps={({ name }) => ({ 'data-policy': name })}
      />
      {edited === null ? (
        <button type="button" className="quiet mt-2" onClick={() => setEnding('')}>
          Add an ending
        </button>
      ) : (
        <Form
          key={ending}
          name="Rules of a TLD"
          schema={TypedPolicy}
          values={{
            ending: ending ?? '',
            autoRenewDays: written(edited.autoRenewDays),
            redemptionDays: written(edited.redemptionDays),
            pendingDeleteDays: written(edited.pendingDeleteDays),
            dropHours: edited.dropHours.join(' to '),
            isExpiryMoved: edited.isExpiryMoved,
            reference: edited.reference,
          }}
          label="Keep"
          busyLabel="Keeping"
          className="mt-2 border-t border-rule pt-2"
          act={(policy) =>
            keep(
              [...own.filter((one) => one.ending !== policy.ending), policy],
              `The rules of .${policy.ending} are kept`,
            )
          }
          beside={
            <button type="button" className="quiet" onClick={() => setEnding(null)}>
              Leave it
            </button>
          }
        >
          <div className="flex flex-wrap items-end gap-3">
            <LineField name="ending" label="Ending" place="small" className="w-24" readOnly={ending !== ''} />
            {DAY_FIELDS.map(([key, title]) => (
              <LineField key={key} name={key} label={`${title}, days`} place="small" className="w-24" />
            ))}
            <LineField name="dropHours" label="Drop hours, UTC" place="small" className="w-24" />
            <LineField name="reference" label="Where it stands" place="small" className="w-56" />
            <TickField name="isExpiryMoved">the record shows the next expiry at once</TickField>
          </div>
        </Form>
      )}
    </section>
  );
}
