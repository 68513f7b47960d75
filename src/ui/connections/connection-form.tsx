'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import type { Answer } from '../../contracts/calls';
import type { ConnectionView } from '../../contracts/connections';
import {
  AVAILABILITY,
  CONNECTION_USES,
  type ConnectionUse,
  isOfOrders,
  RESULTS,
  USE_SPECS,
} from '../../core/connections/connection';
import { call } from '../api';
import { SteadyLabel } from '../fields';
import { AreaField, ChoiceField, Complaint, LineField, NumberField, TickField } from '../forms/field';
import { Form } from '../forms/form';
import { useRedraw } from '../server-state';
import { TriedView } from '../setup/tried-view';
import { useNow } from '../shell/live';
import { undoToast } from '../undo';
import { AnswerFields } from './answer-fields';
import { OfOrders } from './order-fields';
import { placeText, TypedConnection, type TypedIn, type TypedOut, typedConnection } from './typed-connection';

/** What may be asked. */
interface Example {
  domain: string;
  words: string;
}

type Found = Answer<'POST /connections/try'>;

const USES = CONNECTION_USES.map((use) => [use, USE_SPECS[use].label] as const);

/** Describes a service: how it is asked, and what of its answer stands where, picked on a real one. */
export function ConnectionForm({
  view,
  use,
  example,
  venues,
}: {
  /** The one that is changed; null: a new one. */
  view: ConnectionView | null;
  use: ConnectionUse;
  example: Example;
  /** Venues that are known. */
  venues: readonly string[];
}) {
  const router = useRouter();
  const redraw = useRedraw();
  const [found, setFound] = useState<Found | null>(null);
  const save = async ({ question: _, sample: __, ...body }: TypedOut) => {
    const { connection, act } = view
      ? await call('PUT /connections/{id}', { params: { id: view.id }, body })
      : await call('POST /connections', { body });
    undoToast(`${connection.description.title} is kept`, act, redraw);
    if (view) redraw();
    else router.push(`/setup/connections/${connection.id}`);
  };
  return (
    <Form
      schema={TypedConnection}
      values={typedConnection(view, use, questionOf(view?.description.use ?? use, example))}
      name="Describe a service"
      label="Keep this description"
      busyLabel="Keeping it"
      act={save}
      className="mt-3"
    >
      <div className="grid grid-cols-1 gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
        <div className="flex min-w-0 flex-col gap-3">
          <Asking hasKey={view?.hasKey ?? false} hasPassword={view?.hasPassword ?? false} venues={venues} />
        </div>
        <section className="flex min-w-0 flex-col gap-3 lg:border-l lg:border-rule lg:pl-6" aria-label="Its answer">
          <Ask id={view?.id ?? null} example={example} onFound={setFound} />
          {found && <Came found={found} />}
          <AnswerFields laidOut={found?.laidOut ?? null} />
        </section>
      </div>
    </Form>
  );
}

/** How it is asked. */
function Asking({ hasKey, hasPassword, venues }: { hasKey: boolean; hasPassword: boolean; venues: readonly string[] }) {
  const { method, login, use } = useWatch<TypedIn>();
  return (
    <>
      <div className="flex flex-wrap gap-4">
        <LineField name="title" label="Name" className="w-64 max-w-full" placeholder="Saltmarch Registry" />
        <ChoiceField name="use" label="What it is asked for" options={USES} />
      </div>
      {isOfOrders(use) && <OfOrders use={use} venues={venues} />}
      <div className="flex flex-wrap gap-4">
        <ChoiceField
          name="method"
          label="Method"
          options={[
            ['GET', 'GET'],
            ['POST', 'POST'],
            ['PUT', 'PUT'],
          ]}
        />
        <LineField
          name="address"
          label="Address"
          hint={placeholdersFor(use ?? 'registrar')}
          outer="min-w-0 flex-1"
          placeholder="https://api.saltmarch.example/check?name={domain}"
        />
      </div>
      {method !== 'GET' && (
        <>
          <AreaField name="body" label="What is sent" rows={4} placeholder={'{"domain": "{domain}"}'} />
          <ChoiceField
            name="bodyType"
            label="As"
            place="small"
            options={[
              ['json', 'JSON'],
              ['form', 'form fields'],
              ['xml', 'XML'],
            ]}
          />
        </>
      )}
      <AreaField name="headers" label="Headers" hint="one a line" rows={2} placeholder="X-Api-Key: {key}" />
      <div className="flex flex-wrap gap-4">
        <LineField
          name="key"
          label="Key"
          hint={hasKey ? 'empty: the one that is kept' : 'sent where {key} stands'}
          type="password"
          autoComplete="off"
          className="w-64 max-w-full"
        />
        <NumberField name="perMinute" label="Questions a minute" className="w-20" />
      </div>
      <ChoiceField
        name="login"
        label="Login"
        options={[
          ['none', 'none, or by the key'],
          ['basic', 'name and password'],
        ]}
      />
      {login === 'basic' && (
        <div className="flex flex-wrap gap-4">
          <LineField name="user" label="User name" autoComplete="off" className="w-56 max-w-full" />
          <LineField
            name="password"
            label="Password"
            hint={hasPassword ? 'empty: the one that is kept' : undefined}
            type="password"
            autoComplete="off"
            className="w-56 max-w-full"
          />
        </div>
      )}
      {!isOfOrders(use) && <Parts />}
      <Complaint name="paging" />
      <details>
        <summary className="set w-fit cursor-pointer">Errors, prices, switching it off</summary>
        <div className="mt-2 flex flex-col gap-3">
          <AreaField
            name="errors"
            label="It is an error where something stands at"
            hint="one a line: /error, or /status = failed"
            rows={2}
          />
          <LineField
            name="nothing"
            label="Statuses that mean that nothing was found"
            hint="others than 200 are errors"
            placeholder="404"
            className="w-32"
          />
          <div className="flex flex-wrap items-end gap-4">
            {use !== 'orders' && (
              <LineField
                name="currency"
                label="Currency"
                hint="of prices that name none"
                maxLength={3}
                className="w-20"
              />
            )}
            <TickField name="isMinor">prices are in cents</TickField>
          </div>
          {use === 'registrar' && (
            <Words of={AVAILABILITY} label="Its own words for availability" known="available, taken, true, false" />
          )}
          {isOfOrders(use) && (
            <Words
              of={RESULTS}
              label="Its own words for how an order stands"
              known="winning, outbid, success, failed"
            />
          )}
          <TickField name="isOn" hint="of several for one purpose the first is asked">
            it is switched on
          </TickField>
        </div>
      </details>
    </>
  );
}

/** How further parts are asked for. */
function Parts() {
  const { paging } = useWatch<TypedIn>();
  return (
    <>
      <ChoiceField
        name="paging.by"
        label="Further parts"
        options={[
          ['none', 'there are none'],
          ['page', 'by number: {page}'],
          ['offset', 'by the first entry: {offset}'],
          ['cursor', 'by a mark in the answer: {cursor}'],
          ['link', 'at an address that it names'],
        ]}
      />
      {paging?.by === 'page' && (
        <ChoiceField
          name="paging.from"
          label="The first is"
          place="small"
          options={[
            ['1', '1'],
            ['0', '0'],
          ]}
        />
      )}
      {paging?.by === 'offset' && (
        <NumberField name="paging.step" label="Entries a part" place="small" className="w-24" />
      )}
      {(paging?.by === 'cursor' || paging?.by === 'link') && (
        <LineField
          name="paging.at"
          label={paging.by === 'cursor' ? 'Where the mark stands' : 'Where the address stands'}
          hint={paging.by === 'link' ? 'empty: in the Link header' : undefined}
          placeholder="/meta/next"
        />
      )}
    </>
  );
}

/** Words of a service that the usual ones do not cover. */
function Words({ of, label, known }: { of: readonly (keyof TypedIn['words'])[]; label: string; known: string }) {
  return (
    <fieldset>
      <legend className="font-semibold">{label}</legend>
      <span className="small">with commas between; {known} and the like are known</span>
      <div className="mt-1 grid grid-cols-2 gap-x-4 gap-y-2">
        {of.map((one) => (
          <LineField key={one} name={`words.${one}`} label={one} place="small" />
        ))}
      </div>
      <Complaint name="words" />
    </fieldset>
  );
}

function placeholdersFor(use: ConnectionUse): string {
  const { needs } = USE_SPECS[use];
  if (use === 'orders')
    return 'with {domain}; {amount} like 42.50, {minor} like 4250, {currency}, {order}: a key of ours';
  if (use === 'order-state') return 'with {order}, our key; {number}, that of the venue; or {domain}';
  return needs.length === 0 ? '{page} or {key} where they go' : `with ${needs[0].map((one) => `{${one}}`).join(', ')}`;
}

/** Asks one real question by what stands in the fields. */
function Ask({ id, example, onFound }: { id: string | null; example: Example; onFound(found: Found): void }) {
  const form = useFormContext<TypedIn, unknown, TypedOut>();
  const redraw = useRedraw();
  const { use = 'registrar' } = useWatch<TypedIn>();
  const { tries } = USE_SPECS[use];
  const [isBusy, setBusy] = useState(false);
  const [isProposed, setProposed] = useState(false);
  const press = async ({ question: typed, sample, ...connection }: TypedOut) => {
    if (isBusy) return;
    setBusy(true);
    const question = tries === 'answer' ? sample : typed || questionOf(use, example);
    try {
      const found = await call('POST /connections/try', { body: { id, connection, question } });
      onFound(found);
      setProposed(Object.keys(connection.fields).length === 0 && propose(found));
      redraw();
    } catch (error) {
      toast((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  /** What the answer most likely means stands in the fields that nobody has filled in. */
  const propose = ({ laidOut }: Found): boolean => {
    if (!laidOut) return false;
    form.setValue('format', laidOut.format, { shouldDirty: true });
    if (!laidOut.proposed) return false;
    form.setValue('entries', laidOut.proposed.entries, { shouldDirty: true });
    for (const [field, place] of Object.entries(laidOut.proposed.fields))
      form.setValue(`fields.${field}`, placeText(place), { shouldDirty: true });
    return Object.keys(laidOut.proposed.fields).length > 0;
  };
  return (
    <div className="flex flex-wrap items-end gap-3">
      {tries === 'answer' && (
        <AreaField
          name="sample"
          label="An answer to an order, as its documentation writes it"
          hint="nothing is sent from here"
          outer="w-full"
          rows={4}
          placeholder={'{"status": "accepted", "order_id": 7731}'}
        />
      )}
      {tries !== null && tries !== 'answer' && (
        <LineField name="question" label={QUESTIONS[tries]} className="w-64 max-w-full" />
      )}
      <button type="button" className="press" aria-busy={isBusy} onClick={() => void form.handleSubmit(press)()}>
        {tries === 'answer' ? (
          <SteadyLabel label="Show what would be sent" busyLabel="Looking" isBusy={isBusy} />
        ) : (
          <SteadyLabel label="Ask it" busyLabel="Asking" isBusy={isBusy} />
        )}
      </button>
      {isProposed && (
        <p className="w-full">What stands where was filled in below by its names. Look it over, then ask once more.</p>
      )}
    </div>
  );
}

const QUESTIONS = {
  domain: 'Domain to ask about',
  words: 'Words to ask for',
  order: 'Number or domain of an order there',
};

/** What may be asked of a use. */
function questionOf(use: ConnectionUse, { domain, words }: Example): string {
  const { tries } = USE_SPECS[use];
  if (tries === 'domain') return domain;
  return tries === 'words' ? words : '';
}

function Came({ found: { tried } }: { found: Found }) {
  const now = useNow();
  const { use = 'registrar' } = useWatch<TypedIn>();
  return <TriedView tried={tried} now={Math.max(now, tried.at)} isInside isShown={USE_SPECS[use].tries === 'answer'} />;
}
