'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Setup } from '../../contracts/setup';
import { ABILITY_SPECS } from '../../core/setup/abilities';
import { HAVES, PURPOSE_NAMES, PURPOSES, type Purpose } from '../../core/setup/purposes';
import type { AbilityState } from '../../core/setup/tried';
import { ago, count } from '../../core/wording/format';
import { call } from '../api';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useRedraw } from '../server-state';
import type { SettingsView } from '../settings/typed-settings';
import { useNow } from '../shell/live';
import { undoToast } from '../undo';
import { AbilityForm } from './ability-form';

/** Where what somebody has is brought in. */
const BRINGS_IN: Partial<Record<Purpose, { href: string; label: string }>> = {
  list: { href: '/sources?add=list', label: 'import it' },
  sites: { href: '/sources?add=crawl', label: 'crawl them' },
  referrers: { href: '/sources?add=referrers', label: 'use the file' },
  backlinks: { href: '/sources?add=links', label: 'import it' },
  logins: { href: '/sources?add=feed', label: 'read a venue' },
};

const STATE_WORDS: Record<AbilityState['state'], string> = {
  works: 'works',
  fails: 'fails',
  untried: 'not tried',
  unset: 'not set up',
};

/** What works with outside services and what does not, by what the person begins with and is after. */
export function SetupScreen({
  setup,
  settings,
  example,
  mode,
}: {
  setup: Setup;
  settings: SettingsView;
  example: { domain: string; words: string };
  mode: 'real' | 'demo';
}) {
  const now = useNow();
  const { abilities, tries } = setup;
  const connections = count(settings.connections.length);
  const [purposes, toggle] = usePurposes(setup.purposes);
  const of = (names: readonly Purpose[], legend: string) => (
    <fieldset>
      <legend className="font-semibold">{legend}</legend>
      <ul className="mt-1">
        {names.map((purpose) => {
          const brings = BRINGS_IN[purpose];
          return (
            <li key={purpose} className="flex flex-wrap items-baseline gap-x-2 py-0.5">
              <label className="flex items-baseline gap-2">
                <input type="checkbox" checked={purposes.includes(purpose)} onChange={() => void toggle(purpose)} />
                {PURPOSES[purpose]}
              </label>
              {brings && (
                <Link className="set text-small" href={brings.href}>
                  {brings.label}
                </Link>
              )}
            </li>
          );
        })}
      </ul>
    </fieldset>
  );
  return (
    <div className="mx-auto max-w-[1240px] px-6 py-6">
      <h1>What works, and what it takes</h1>
      <p className="max-w-[90ch] text-muted">
        Lists, crawls and backlink data need nothing but themselves. What follows asks somebody outside. Nobody is asked
        before you try it or start work that needs it.
        {mode === 'demo' && ' In the demo every service is a stand-in on this machine.'}
      </p>
      <div className="mt-4 grid max-w-[860px] grid-cols-1 gap-x-12 gap-y-4 sm:grid-cols-2">
        {of(HAVES, 'You have')}
        {of(
          PURPOSE_NAMES.filter((purpose) => !HAVES.includes(purpose)),
          'You want to',
        )}
      </div>
      <p className="mt-4">
        <Link className="set" href="/setup/connections">
          Services you describe
        </Link>{' '}
        <span className="text-muted">
          A venue, registrar, search, register or index that has an interface of its own; {connections} so far.
        </span>
      </p>
      <Table
        label="Abilities"
        className="mt-5 table-fixed"
        columns={columnsOf(purposes, now)}
        rows={abilities}
        rowId={({ ability }) => ability}
        rowProps={({ ability, state }) => ({ 'data-row': ability, 'data-state': state })}
        opener="Set up"
        opens={({ ability }) => `Set up ${ABILITY_SPECS[ability].label}`}
        detail={({ ability }) => (
          <AbilityForm ability={ability} settings={settings} last={tries[ability]} example={example} />
        )}
      />
    </div>
  );
}

/** What is ticked, at once; the server hears of it one after the other, and its word counts when nothing is on its way. */
function usePurposes(kept: readonly Purpose[]): [readonly Purpose[], (purpose: Purpose) => Promise<void>] {
  const redraw = useRedraw();
  const [ticked, setTicked] = useState(kept);
  const latest = useRef(kept);
  const sending = useRef<Promise<unknown>>(Promise.resolve());
  const underWay = useRef(0);
  const take = useCallback((next: readonly Purpose[]) => {
    latest.current = next;
    setTicked(next);
  }, []);
  useEffect(() => {
    if (underWay.current === 0) take(kept);
  }, [kept, take]);
  const toggle = async (purpose: Purpose) => {
    const before = latest.current;
    const next = before.includes(purpose) ? before.filter((one) => one !== purpose) : [...before, purpose];
    take(next);
    underWay.current++;
    const sent = sending.current.then(() => call('PATCH /settings', { body: { purposes: [...next] } }));
    sending.current = sent.catch(() => undefined);
    try {
      const { act } = await sent;
      undoToast('What you are after is kept', act, redraw);
    } catch (error) {
      toast((error as Error).message);
    } finally {
      underWay.current--;
      redraw();
    }
  };
  return [ticked, toggle];
}

/** What is read as a source; all else is tried. */
const isGathered = (ability: AbilityState['ability']) => ability === 'venues' || ability === 'backlinks';

const column = columnsFor<AbilityState>();

const columnsOf = (purposes: readonly Purpose[], now: number) => [
  column.accessor(({ ability }) => ABILITY_SPECS[ability].label, {
    id: 'service',
    header: 'Ability',
    meta: { isHead: true, className: 'w-36 align-top' },
    cell: ({ row: { original } }) => ABILITY_SPECS[original.ability].label,
  }),
  column.accessor('state', {
    header: 'Now',
    meta: { className: 'w-24 align-top' },
    cell: ({ row: { original } }) => (
      <span className={original.state === 'works' ? 'text-muted' : 'font-semibold'}>{STATE_WORDS[original.state]}</span>
    ),
  }),
  column.accessor('words', {
    header: 'Why',
    meta: { className: 'align-top w-[38%]' },
    cell: ({ row: { original } }) => (
      <>
        {original.words}
        {original.at !== null && (
          <span className="small">
            {' '}
            {isGathered(original.ability) ? 'Read' : 'Tried'} {ago(original.at, now)}.
          </span>
        )}
      </>
    ),
  }),
  column.accessor(({ ability }) => ABILITY_SPECS[ability].does, {
    id: 'does',
    header: 'What for',
    meta: { className: 'align-top' },
    cell: ({ row: { original } }) => {
      const needed = ABILITY_SPECS[original.ability].purposes.filter((purpose) => purposes.includes(purpose));
      return (
        <>
          {ABILITY_SPECS[original.ability].does}
          {needed.length > 0 && (
            <span className="small block">For: {needed.map((purpose) => PURPOSES[purpose]).join('; ')}</span>
          )}
        </>
      );
    },
  }),
];
