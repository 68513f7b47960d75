'use client';

import { useState } from 'react';
import { useFormContext } from 'react-hook-form';
import { toast } from 'sonner';
import type { z } from 'zod';
import type { Sent } from '../../contracts/calls';
import { type ConnectionUse, connectionFor } from '../../core/connections/connection';
import { ABILITY_SPECS, type Ability, describedUse, TRIED, type TriedAbility } from '../../core/setup/abilities';
import type { Tried } from '../../core/setup/tried';
import { day, plural } from '../../core/wording/format';
import { call } from '../api';
import { SteadyLabel } from '../fields';
import { LineField } from '../forms/field';
import { Form } from '../forms/form';
import Link from '../link';
import { useRedraw } from '../server-state';
import { type SettingsView, TypedTry, typedSettings } from '../settings/typed-settings';
import { useNow } from '../shell/live';
import { undoToast } from '../undo';
import { AbilityFields } from './ability-fields';
import { TriedView } from './tried-view';

type Typed = z.output<typeof TypedTry>;
type Change = Sent<'PATCH /settings'>;

const isTried = (ability: Ability): ability is TriedAbility => TRIED.some((one) => one === ability);

/** Of all that is typed, what an ability goes by. */
function changeFor(ability: Ability, sent: Typed): Change {
  const { fields: tried, also = [] } = ABILITY_SPECS[ability];
  const fields = [...tried, ...also].filter((field) => field in sent);
  // each field is sent as the schema of all of them gave it
  return Object.fromEntries(fields.map((field) => [field, sent[field as keyof Typed]])) as Change;
}

/** Sets an ability up: its settings, a question to try them by before they are kept, and what came of it. */
export function AbilityForm({
  ability,
  settings,
  last,
  example,
}: {
  ability: Ability;
  settings: SettingsView;
  /** What came when it was tried last. */
  last: Tried | undefined;
  /** What may be asked. */
  example: { domain: string; words: string };
}) {
  const redraw = useRedraw();
  const now = useNow();
  const [tried, setTried] = useState<Tried | undefined>(last);
  const { label, question } = ABILITY_SPECS[ability];
  const use = describedUse(ability);
  const save = async (sent: Typed) => {
    const { act } = await call('PATCH /settings', { body: changeFor(ability, sent) });
    undoToast(`${label}: the settings are kept`, act, redraw);
    redraw();
  };
  const ask = async (sent: Typed) => {
    if (!isTried(ability)) return null;
    const body = { ability, settings: changeFor(ability, sent), question: sent.question };
    const next = await call('POST /setup/try', { body });
    setTried(next);
    redraw();
    return next.problem;
  };
  // accounts and their keys have their own place: here they are tried
  const isSetHere = ability !== 'accounts';
  const form = {
    schema: TypedTry,
    values: { ...typedSettings(settings), question: question === null ? '' : example[question.kind] },
    name: `Set up ${label}`,
  };
  const fields = (
    <>
      <AbilityFields ability={ability} />
      {question !== null && <LineField name="question" label={question.label} className="w-80 max-w-full" />}
    </>
  );
  if (ability === 'venues' || ability === 'backlinks')
    return (
      <div className="pt-1" data-ability={ability}>
        <Gathers ability={ability} />
        {use !== null && <Described use={use} settings={settings} />}
      </div>
    );
  return (
    <div className="grid grid-cols-1 gap-x-10 gap-y-3 pt-1 lg:grid-cols-2" data-ability={ability}>
      <div className="min-w-0">
        {isSetHere ? (
          <Form
            {...form}
            label="Keep these settings"
            busyLabel="Keeping them"
            isQuiet
            act={save}
            beside={isTried(ability) && <Try ask={ask} />}
          >
            {fields}
          </Form>
        ) : (
          <Form {...form} label="Try it" busyLabel="Asking" act={ask} isFleeting>
            {fields}
          </Form>
        )}
        {ability === 'history' && settings.warcPath !== '' && <ReadFiles />}
        {ability === 'currency' && <RateFile ratesAt={settings.ratesAt} />}
        {use !== null && <Described use={use} settings={settings} />}
      </div>
      {tried && <TriedView tried={tried} now={Math.max(now, tried.at)} />}
    </div>
  );
}

/** Asks one real question by what stands in the fields; a problem is said at the field that puts it right. */
function Try({ ask }: { ask(sent: Typed): Promise<Tried['problem']> }) {
  const form = useFormContext<z.input<typeof TypedTry>, unknown, Typed>();
  const [isBusy, setBusy] = useState(false);
  const press = async (sent: Typed) => {
    if (isBusy) return;
    setBusy(true);
    try {
      const problem = await ask(sent);
      const field = Object.keys(form.getValues()).find((name) => name === problem?.field);
      if (problem && field !== undefined)
        form.setError(field as keyof Typed, { type: 'server', message: problem.words }, { shouldFocus: true });
    } catch (error) {
      toast((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <button type="button" className="press" aria-busy={isBusy} onClick={() => void form.handleSubmit(press)()}>
      <SteadyLabel label="Try it" busyLabel="Asking" isBusy={isBusy} />
    </button>
  );
}

const GATHERS = {
  venues: {
    href: '/sources?add=feed',
    add: 'Read a venue',
    says: 'Each is read under Sources, once or again and again.',
  },
  backlinks: {
    href: '/sources?add=links',
    add: 'Import a link export',
    says: 'What an index counts stands beside what is measured here, under its name and date.',
  },
};

/** What is brought in as a source is set up there. */
function Gathers({ ability }: { ability: keyof typeof GATHERS }) {
  const { href, add, says } = GATHERS[ability];
  return (
    <p className="max-w-[60ch]">
      <Link className="set" href={href}>
        {add}
      </Link>
      . {says}
    </p>
  );
}

/** Who has an ability by a description, and where one is made. */
function Described({ use, settings }: { use: ConnectionUse; settings: SettingsView }) {
  const taking = use === 'orders' ? settings.connections.filter((one) => one.use === use && one.isOn) : [];
  if (taking.length > 0)
    return (
      <p className="mt-3 max-w-[60ch]">
        {taking.map(({ id, title, venue, isDry }) => (
          <span key={id} className="block">
            <Link className="set" href={`/setup/connections/${id}`}>
              {title}
            </Link>{' '}
            takes orders for {venue}
            {isDry && ', and only writes them down so far'}.
          </span>
        ))}
      </p>
    );
  const asked = connectionFor(settings.connections, use);
  return (
    <p className="mt-3 max-w-[60ch]">
      {asked ? (
        <>
          <Link className="set" href={`/setup/connections/${asked.id}`}>
            {asked.title}
          </Link>{' '}
          {use === 'listings' || use === 'figures'
            ? 'is described for this.'
            : 'is described for this and is asked instead.'}
        </>
      ) : (
        <>
          Yours answers otherwise?{' '}
          <Link className="set" href={`/setup/connections/new?use=${use}`}>
            Describe it
          </Link>
          : JSON, CSV, XML, a page or a feed, with a key or a login.
        </>
      )}
    </p>
  );
}

/** Reads the files of web archives: what is in them is known afterwards. */
function ReadFiles() {
  const read = async () => {
    try {
      await call('POST /setup/warc');
      toast('The files are being read; Today shows how far');
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <button type="button" className="quiet mt-3" onClick={() => void read()}>
      Read the files
    </button>
  );
}

/** A table of rates as a file, and of when the present ones are. */
function RateFile({ ratesAt }: { ratesAt: number | null }) {
  const redraw = useRedraw();
  const now = useNow();
  const bringIn = async (file: File | undefined) => {
    if (!file) return;
    try {
      const { taken, at, base, aside, act } = await call('POST /rates', { file });
      const counted = base === null ? '' : `, counted over from ${base}`;
      const left = aside.length > 0 ? `; ${plural(aside.length, 'line')} rejected` : '';
      undoToast(
        `${plural(taken, 'rate')} taken${at === null ? '' : ` of ${day(at, now)}`}${counted}${left}`,
        act,
        redraw,
      );
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <div className="mt-3 flex flex-wrap items-baseline gap-x-3">
      <label className="quiet cursor-pointer focus-within:outline-2 focus-within:outline-damson">
        Bring in a table of rates
        <input
          type="file"
          accept=".csv,.tsv,.txt,.xml,.xlsx,.ods"
          className="sr-only"
          onChange={(event) => {
            void bringIn(event.target.files?.[0]);
            event.target.value = '';
          }}
        />
      </label>
      <span className="small">
        {ratesAt === null ? 'The rates have no date.' : `The rates are of ${day(ratesAt, now)}.`} A CSV with currency,
        rate and base, or the XML of a central bank.
      </span>
    </div>
  );
}
