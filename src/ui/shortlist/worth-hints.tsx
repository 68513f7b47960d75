'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { Sent } from '../../contracts/calls';
import type { PlanEntry } from '../../contracts/plan';
import { fixed } from '../../core/formats/figures';
import { closing, day, money } from '../../core/wording/format';
import { standing } from '../../core/wording/orders';
import { call } from '../api';
import { HEAD, NUMBER, PlainTable, plainColumnsFor } from '../parts/plain-table';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';

interface HintProps {
  entry: PlanEntry;
  briefId: number;
  /** The brief's, of all amounts. */
  currency: string;
}

/** What a domain may be worth, by each use that the brief is for. */
export function WorthHints(props: HintProps) {
  return (
    <>
      <Resale {...props} />
      {props.entry.uses.map((use) => (
        <Use key={use.use} use={use} {...props} />
      ))}
    </>
  );
}

type Change = Sent<'PATCH /shortlist/{name}'>;

async function change(entry: PlanEntry, body: Change, back: Change, refresh: () => void): Promise<void> {
  const patch = (value: Change) => call('PATCH /shortlist/{name}', { params: { name: entry.name }, body: value });
  try {
    await patch(body);
    refresh();
    toast(`${entry.display}: kept`, {
      action: {
        label: 'Undo',
        onClick: () =>
          void patch(back)
            .then(refresh)
            .catch((error: Error) => toast(error.message)),
      },
    });
  } catch (error) {
    toast((error as Error).message);
  }
}

const takeWorth = (entry: PlanEntry, briefId: number, low: number | null, high: number | null, refresh: () => void) =>
  change(
    entry,
    { briefId, worthLowMinor: low, worthHighMinor: high },
    { briefId, worthLowMinor: entry.worthLowMinor, worthHighMinor: entry.worthHighMinor },
    refresh,
  );

type Falls = NonNullable<PlanEntry['ways'][number]['falling']>;
const ofSale = plainColumnsFor<NonNullable<PlanEntry['resale']>['near'][number]>();
const ofUse = plainColumnsFor<PlanEntry['uses'][number]['rows'][number]>();
const ofStep = plainColumnsFor<Falls['steps'][number]>();

/** What names like it were sold for, each with how near it is; taken as its worth by a click. */
function Resale({ entry, briefId, currency }: HintProps) {
  const redraw = useRedraw();
  const now = useNow();
  const { resale } = entry;
  if (!resale) return null;
  const show = (minor: number) => money(Math.round(minor / 100) * 100, null);
  const isTaken = resale.lowMinor === entry.worthLowMinor && resale.highMinor === entry.worthHighMinor;
  const take = () => takeWorth(entry, briefId, resale.lowMinor, resale.highMinor, redraw);
  return (
    <div className="small">
      Similar names sold for {show(resale.lowMinor)} to {show(resale.highMinor)} {currency}
      {!isTaken && (
        <button
          type="button"
          className="set ml-2"
          aria-label={`Take what similar names sold for as the worth of ${entry.display}`}
          onClick={() => void take()}
        >
          take it
        </button>
      )}
      <details className="inline-block align-top">
        <summary className="ml-2">which</summary>
        <PlainTable
          label={`Sales like ${entry.display}`}
          isHeadless
          rows={resale.near}
          rowId={({ name, at }) => `${name} ${at}`}
          columns={[
            ofSale('Name', ({ name }) => name, HEAD),
            ofSale('Price', ({ priceMinor }) => show(priceMinor), NUMBER),
            ofSale('Day', ({ at }) => day(at, now)),
            ofSale('Distance', ({ distance }) => `distance ${fixed(distance, 2)}`),
            ofSale('Says', ({ adjustedMinor }) => `says ${show(adjustedMinor)} for this one`),
          ]}
        />
      </details>
    </div>
  );
}

const USE_WORDS = {
  rebuild: { says: 'Traffic value', row: 'a month', label: 'its traffic value' },
  redirect: { says: 'Links like its would cost', row: '', label: 'what links like its would cost' },
} as const;

/** What visits or links of it would cost otherwise, with what that rests on. */
function Use({ entry, briefId, use, currency }: HintProps & { use: PlanEntry['uses'][number] }) {
  const redraw = useRedraw();
  const show = (minor: number) => money(Math.round(minor / 100) * 100, null);
  const { says, row, label } = USE_WORDS[use.use];
  const isTaken = use.lowMinor === entry.worthLowMinor && use.highMinor === entry.worthHighMinor;
  return (
    <div className="small">
      {says} {show(use.lowMinor)} to {show(use.highMinor)} {currency}
      {!isTaken && (
        <button
          type="button"
          className="set ml-2"
          aria-label={`Take ${label} as the worth of ${entry.display}`}
          onClick={() => void takeWorth(entry, briefId, use.lowMinor, use.highMinor, redraw)}
        >
          take it
        </button>
      )}
      <details className="inline-block align-top">
        <summary className="ml-2">how</summary>
        <p className="max-w-prose">{use.words}.</p>
        <PlainTable
          label={`Worth of ${entry.display} to ${use.use}`}
          isHeadless
          rows={use.rows}
          rowId={({ what }) => what}
          columns={[
            ofUse('What', ({ what }) => what, { isHead: true, className: 'wrap-anywhere' }),
            ofUse('How much of it', ({ detail }) => detail),
            ofUse('Worth', ({ minor }) => `${money(minor, null)} ${row}`, {
              isNumber: true,
              className: 'whitespace-nowrap',
            }),
          ]}
        />
      </details>
    </div>
  );
}

/** The steps of a falling price: what each would bring, and the chance that it is still there. */
export function Falling({ entry, briefId, currency }: HintProps) {
  const redraw = useRedraw();
  const now = useNow();
  // pressed twice, it is one order
  const [clientKey, setClientKey] = useState(() => crypto.randomUUID());
  const falling = entry.way === null ? null : entry.ways[entry.way].falling;
  if (!falling) return null;
  const { steps, best, venue, seen } = falling;
  const show = (minor: number) => money(Math.round(minor / 100) * 100, null);
  const orderFor = async ({ at, listedMinor }: (typeof steps)[number]) => {
    try {
      const body = {
        name: entry.name,
        briefId,
        venue,
        kind: 'buy' as const,
        amountMinor: listedMinor,
        sendAt: at > now ? at : null,
        clientKey,
      };
      const { order } = await call('POST /orders', { body });
      toast(`${entry.display}: ${standing(order)}`);
      setClientKey(crypto.randomUUID());
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <PlainTable
      label={`Price drops of ${entry.display}`}
      isHeadless
      className="small mt-1 w-auto!"
      rows={steps}
      rowId={({ at }) => String(at)}
      rowProps={(_, n) => ({ className: n === best ? 'font-semibold text-ink' : '' })}
      columns={[
        ofStep('Price', ({ priceMinor }) => show(priceMinor), NUMBER),
        ofStep('When', ({ at }) => (at <= now ? 'now' : closing(at, now))),
        ofStep('Chance', ({ chanceThere }) => `${Math.round(100 * chanceThere)}% still there`, NUMBER),
        ofStep('Brings', ({ expectedMinor }) => `brings ${show(expectedMinor)} ${currency} on average`),
        ofStep(
          'What can be done',
          (step, n) =>
            n === best && (
              <button type="button" className="set" onClick={() => void orderFor(step)}>
                {step.at <= now ? 'buy it now' : 'order it for then'}
              </button>
            ),
          { isUntitled: true },
        ),
      ]}
      last={
        <>
          {best === null ? 'No price drop brings anything. ' : ''}
          {seen === 0
            ? 'Assumed that one in eight is gone at each price drop: none of the venue’s was seen to end.'
            : `By ${seen} falling prices of ${venue} that were seen to end.`}
        </>
      }
    />
  );
}
