'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { type AskingInputs, askingPrice } from '../../core/selling/asking';
import { ago, day, money } from '../../core/wording/format';
import { call } from '../api';
import { ActionForm } from '../fields';
import { useNow } from '../shell/live';
import { readBid } from '../shortlist/stages';
import type { SalePlanShown } from './types';

const BY_HAND = '';
const PER_HOME = 1_000_000;

/** What to ask, from inputs that can be changed; what is said, from sentences that are evidenced; and where. */
export function OfferForm({ name, plan }: { name: string; plan: SalePlanShown }) {
  const router = useRouter();
  const now = useNow();
  const { currency: home, near, sentences, venues } = plan;
  const [inputs, setInputs] = useState(plan.inputs);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [venue, setVenue] = useState(venues[0]?.venue ?? BY_HAND);
  const price = askingPrice(inputs);
  const chosen = venues.find((one) => one.venue === venue);
  const there = (minor: number) =>
    chosen?.perHome ? Math.ceil((minor * chosen.perHome) / PER_HOME / 100) * 100 : minor;
  const offer = async (form: FormData) => {
    const [askMinor, floorMinor] = ['ask', 'floor'].map((key) => readBid(String(form.get(key))));
    if (!askMinor || !floorMinor) throw new Error('Write both prices as 140 or 140.50.');
    const currency = chosen?.currency ?? home;
    const kept = sentences.map(({ key }) => key).filter((key) => !left.has(key));
    const at = chosen?.venue ?? String(form.get('elsewhere')).trim();
    if (at === '') throw new Error('Say where you offer it.');
    await call('POST /resales', { body: { name, venue: at, askMinor, floorMinor, currency, sentences: kept } });
    toast(plan.isDryRun && chosen ? `${name} would be offered at ${at}` : `${name} is offered at ${at}`);
    router.refresh();
  };
  return (
    <ActionForm label="Offer it" busyLabel="Offering" act={offer}>
      <div>
        <h2>What to ask</h2>
        <div className="mt-2 grid grid-cols-1 lg:grid-cols-[auto_auto_auto_auto_auto] gap-x-4">
          <Amount label="Worth, low" inputs={inputs} field="lowMinor" onChange={setInputs} />
          <Amount label="Worth, high" inputs={inputs} field="highMinor" onChange={setInputs} />
          <Amount label="It cost" inputs={inputs} field="costMinor" onChange={setInputs} />
          <Percent label="Over that, %" inputs={inputs} field="marginPercent" onChange={setInputs} />
          <Percent label="Venue keeps, %" inputs={inputs} field="venuePercent" onChange={setInputs} />
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
              <label className="flex items-baseline gap-2">
                <input
                  type="checkbox"
                  checked={!left.has(key)}
                  onChange={(event) => {
                    const next = new Set(left);
                    if (event.target.checked) next.delete(key);
                    else next.add(key);
                    setLeft(next);
                  }}
                />
                <span className="wrap-anywhere">
                  {words}{' '}
                  <span className="small">
                    {evidence}
                    {at !== null && `, ${ago(at, now)}`}
                  </span>
                </span>
              </label>
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
          {!chosen && (
            <label>
              <span className="small block">Which one</span>
              <input className="field w-40" name="elsewhere" maxLength={100} />
            </label>
          )}
          <Price name="ask" label="Asked" minor={price && there(price.askMinor)} />
          <Price name="floor" label="Floor, not told to anybody" minor={price && there(price.floorMinor)} />
          <span className="pb-1.5">{chosen?.currency ?? home}</span>
        </div>
      </div>
    </ActionForm>
  );
}

function Price({ name, label, minor }: { name: string; label: string; minor: number | null }) {
  return (
    <label>
      <span className="small block">{label}</span>
      <input
        className="field w-28 text-right"
        inputMode="decimal"
        name={name}
        key={minor}
        defaultValue={minor === null ? '' : (minor / 100).toFixed(2)}
      />
    </label>
  );
}

interface InputProps<F extends keyof AskingInputs> {
  label: string;
  inputs: AskingInputs;
  field: F;
  onChange(inputs: AskingInputs): void;
}

function Amount({ label, inputs, field, onChange }: InputProps<'lowMinor' | 'highMinor' | 'costMinor'>) {
  return (
    <label>
      <span className="small block whitespace-nowrap">{label}</span>
      <input
        className="field w-full text-right"
        inputMode="decimal"
        defaultValue={inputs[field] === null ? '' : (inputs[field] / 100).toFixed(2)}
        onChange={(event) => {
          const minor = readBid(event.target.value);
          if (minor !== undefined) onChange({ ...inputs, [field]: field === 'costMinor' ? (minor ?? 0) : minor });
        }}
      />
    </label>
  );
}

function Percent({ label, inputs, field, onChange }: InputProps<'marginPercent' | 'venuePercent'>) {
  return (
    <label>
      <span className="small block whitespace-nowrap">{label}</span>
      <input
        className="field w-full text-right"
        type="number"
        min={0}
        max={field === 'venuePercent' ? 90 : 1000}
        defaultValue={inputs[field]}
        onChange={(event) => {
          const percent = Number(event.target.value);
          if (event.target.value !== '' && percent >= 0 && percent <= 1000) onChange({ ...inputs, [field]: percent });
        }}
      />
    </label>
  );
}
