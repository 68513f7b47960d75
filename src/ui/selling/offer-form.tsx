'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { FormProvider, useForm } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import { typedAmount } from '../../core/money/typed-amount';
import { type AskingInputs, askingPrice } from '../../core/selling/asking';
import { ago, day, money } from '../../core/wording/format';
import { call } from '../api';
import { AmountLine, LineField, NumberField, TickField } from '../forms/field';
import { Form } from '../forms/form';
import { amount, number, someAmount, text } from '../forms/typed';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';
import type { SalePlanShown } from './types';

const BY_HAND = '';
const PER_HOME = 1_000_000;

const TypedOffer = z.object({
  askMinor: someAmount('both prices'),
  floorMinor: someAmount('both prices'),
  elsewhere: z.string(),
  sentences: z.array(z.string()),
});
const TypedOfferElsewhere = TypedOffer.extend({ elsewhere: text('Say where you offer it.') });

/** What the price is counted from, as it is typed. */
const Inputs = z.object({
  lowMinor: amount('what it is worth'),
  highMinor: amount('what it is worth'),
  costMinor: amount('what it cost').transform((minor) => minor ?? 0),
  marginPercent: number({ most: 1000 }),
  venuePercent: number({ most: 90 }),
});
type TypedInputs = z.input<typeof Inputs>;
const INPUTS = ['lowMinor', 'highMinor', 'costMinor', 'marginPercent', 'venuePercent'] as const;

const typedInputs = (inputs: AskingInputs): TypedInputs => ({
  lowMinor: typedAmount(inputs.lowMinor),
  highMinor: typedAmount(inputs.highMinor),
  costMinor: typedAmount(inputs.costMinor),
  marginPercent: String(inputs.marginPercent),
  venuePercent: String(inputs.venuePercent),
});

/** What was typed; what cannot be read is told at its field, and counted as it was before. */
const inputsOf = (typed: TypedInputs, before: AskingInputs): AskingInputs => ({
  ...before,
  ...Object.fromEntries(
    INPUTS.flatMap((field) => {
      const { success, data } = Inputs.shape[field].safeParse(typed[field]);
      return success ? [[field, data]] : [];
    }),
  ),
});

/** What to ask, from inputs that can be changed; what is said, from sentences that are evidenced; and where. */
export function OfferForm({ name, plan }: { name: string; plan: SalePlanShown }) {
  const redraw = useRedraw();
  const now = useNow();
  const { currency: home, near, sentences, venues } = plan;
  const asking = useForm<TypedInputs, unknown, z.output<typeof Inputs>>({
    resolver: zodResolver(Inputs),
    values: typedInputs(plan.inputs),
    resetOptions: { keepDirtyValues: true },
    mode: 'onChange',
  });
  const [venue, setVenue] = useState(venues[0]?.venue ?? BY_HAND);
  const price = askingPrice(inputsOf(asking.watch(), plan.inputs));
  const chosen = venues.find((one) => one.venue === venue);
  const there = (minor: number) =>
    chosen?.perHome ? Math.ceil((minor * chosen.perHome) / PER_HOME / 100) * 100 : minor;
  const shown = (minor: number | undefined) => (minor === undefined ? '' : typedAmount(there(minor)));
  const offer = async ({ elsewhere, ...typed }: z.output<typeof TypedOffer>) => {
    const at = chosen?.venue ?? elsewhere;
    await call('POST /resales', { body: { ...typed, name, venue: at, currency: chosen?.currency ?? home } });
    toast(plan.isDryRun && chosen ? `${name} would be offered at ${at}` : `${name} is offered at ${at}`);
    redraw();
  };
  return (
    <Form
      schema={chosen ? TypedOffer : TypedOfferElsewhere}
      values={{
        askMinor: shown(price?.askMinor),
        floorMinor: shown(price?.floorMinor),
        elsewhere: '',
        sentences: sentences.map(({ key }) => key),
      }}
      label="Offer it"
      busyLabel="Offering"
      act={offer}
    >
      <div>
        <h2>What to ask</h2>
        <div className="mt-2 grid grid-cols-1 lg:grid-cols-[auto_auto_auto_auto_auto] gap-x-4">
          <FormProvider {...asking}>
            <AmountLine name="lowMinor" label="Worth, low" place="small" className="w-full" />
            <AmountLine name="highMinor" label="Worth, high" place="small" className="w-full" />
            <AmountLine name="costMinor" label="It cost" place="small" className="w-full" />
            <NumberField name="marginPercent" label="Over that, %" place="small" className="w-full" />
            <NumberField name="venuePercent" label="Venue keeps, %" place="small" className="w-full" />
          </FormProvider>
        </div>
        <p className="small mt-1">
          In {home}. Worth by what similar names sold for; costs from Holdings; the margin is the brief’s; what the
          venue keeps is assumed.
        </p>
        {price ? (
          <>
            <dl className="mt-2">
              {price.steps.map(({ words, minor }) => (
                <div key={words} className="flex gap-3 border-t border-faint py-0.5">
                  <dt className="grow">{words}</dt>
                  <dd>{money(minor, home)}</dd>
                </div>
              ))}
              <div className="flex gap-3 border-t border-faint py-0.5">
                <dt className="grow">left of the floor, once all is paid</dt>
                <dd>{money(price.leftAtFloorMinor, home)}</dd>
              </div>
            </dl>
            {price.warnings.map((words) => (
              <p key={words} className="small mt-1">
                {words}
              </p>
            ))}
          </>
        ) : (
          <p className="mt-2">
            Neither its worth nor its cost is known. Take lists of sales in Sources, or write both prices yourself.
          </p>
        )}
        {near.length > 0 && (
          <p className="small mt-1">
            Nearest sales:{' '}
            {near.map((sale) => `${sale.name} ${money(sale.priceMinor, home)}, ${day(sale.at, now)}`).join('; ')}.
          </p>
        )}

        <h2 className="mt-5">What to say</h2>
        <p className="small">Only what is evidenced. What is left out is not said.</p>
        <ul className="mt-1">
          {sentences.map(({ key, words, evidence, at }) => (
            <li key={key} className="border-t border-faint py-1">
              <TickField name="sentences" value={key}>
                <span className="wrap-anywhere">
                  {words}{' '}
                  <span className="small">
                    {evidence}
                    {at !== null && `, ${ago(at, now)}`}
                  </span>
                </span>
              </TickField>
            </li>
          ))}
        </ul>

        <h2 className="mt-5">Where</h2>
        <div className="mt-2 mb-3 flex flex-wrap items-end gap-3">
          <label>
            <span className="small block">Venue</span>
            <select className="field" value={venue} onChange={(event) => setVenue(event.target.value)}>
              {venues.map((one) => (
                <option key={one.venue}>{one.venue}</option>
              ))}
              <option value={BY_HAND}>elsewhere, by hand</option>
            </select>
          </label>
          {!chosen && <LineField name="elsewhere" label="Which one" place="small" className="w-40" maxLength={100} />}
          <AmountLine name="askMinor" label="Asked" place="small" />
          <AmountLine name="floorMinor" label="Floor, not told to anybody" place="small" />
          <span className="pb-1.5">{chosen?.currency ?? home}</span>
        </div>
      </div>
    </Form>
  );
}
