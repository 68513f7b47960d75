'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import type { StoredBrief } from '../../contracts/briefs';
import { briefSieve } from '../../core/fit/brief-sieve';
import {
  FIT_PARTS,
  FIT_TITLES,
  type FitWeights,
  mixedWeights,
  PURPOSE_WEIGHTS,
  type Purpose,
} from '../../core/fit/fit';
import type { HouseLimits } from '../../core/fit/house-limits';
import { formatView } from '../../core/pool/conditions';
import { money } from '../../core/wording/format';
import { ASSUMPTIONS, type WorthAssumptions } from '../../core/worth/assumptions';
import { call } from '../api';
import { ActionForm, Labelled, wordsOf } from '../fields';
import Link from '../link';
import { readBid } from '../shortlist/stages';
import { PURPOSES } from './brief-view';

const LIMITS: [key: keyof HouseLimits, words: string, unit: string][] = [
  ['leastStrength', 'strength at least', ''],
  ['leastTrust', 'trust at least', ''],
  ['leastReferring', 'referring domains at least', ''],
  ['mostSpamRisk', 'spam risk at most', 'of 100'],
  ['leastYears', 'age at least', 'years'],
  ['mostLetters', 'length at most', 'letters'],
];

/** All that a brief says. */
export function BriefForm({ brief, onSaved }: { brief: StoredBrief; onSaved(id: number): void }) {
  const router = useRouter();
  const isNew = brief.id === 0;
  const [isMixed, setMixed] = useState(brief.mix !== null);
  const save = async (form: FormData) => {
    const body = bodyOf(form, isMixed);
    const { id } = isNew
      ? await call('POST /briefs', { body })
      : await call('PATCH /briefs/{id}', { params: { id: brief.id }, body });
    const undo = async () => {
      const { id: _, ...old } = brief;
      if (isNew) await call('DELETE /briefs/{id}', { params: { id } });
      else await call('PATCH /briefs/{id}', { params: { id }, body: old });
      if (isNew) onSaved(0);
      router.refresh();
    };
    toast(`"${body.name}" is saved`, { action: { label: 'Undo', onClick: () => void undo() } });
    onSaved(id);
    router.refresh();
  };
  const list = (name: keyof StoredBrief & string, label: string, hint?: string) => (
    <Labelled label={label} hint={hint}>
      <input name={name} className="field w-full" defaultValue={(brief[name] as string[]).join(', ')} />
    </Labelled>
  );
  return (
    <ActionForm label={isNew ? 'Add the brief' : 'Save the brief'} busyLabel="Saving" act={save}>
      <div className="grid grid-cols-1 lg:grid-cols-[1fr_380px] gap-x-10">
        <div className="flex flex-col gap-4">
          <div className="flex items-end gap-4">
            <div className="grow">
              <Labelled label="Name">
                <input name="name" required className="field w-full" defaultValue={brief.name} />
              </Labelled>
            </div>
            {!isNew && (
              <>
                <Link className="quiet" href={`/pool?${formatView(briefSieve(brief))}`}>
                  The pool through it
                </Link>
                <a className="quiet" href={`/api/v1/briefs/${brief.id}/file`} download>
                  Take it along
                </a>
              </>
            )}
          </div>
          <PurposeFields brief={brief} isMixed={isMixed} onMixed={setMixed} />
          {list('subjectWords', 'Words of the subject', 'by commas or spaces')}
          <div className="grid grid-cols-1 lg:grid-cols-2 gap-4">
            {list('requiredWords', 'Words it must say', 'one of them')}
            {list('unwantedWords', 'Words it must not say')}
            {list('languages', 'Languages', 'like en, de')}
            {list('countries', 'Countries', 'like GB, DE')}
          </div>
          <Labelled
            label="Trusted sites"
            hint="trust is counted from these, over all briefs; changing them measures it anew"
          >
            <textarea name="trustedSites" className="field h-24 w-full" defaultValue={brief.trustedSites.join('\n')} />
          </Labelled>
          {list('excludedEndings', 'Endings that are out', 'filled in when a crawl or an import starts')}
          <Weights brief={brief} />
        </div>
        <div className="flex flex-col gap-4">
          <MoneyFields brief={brief} />
          <fieldset className="grid grid-cols-1 lg:grid-cols-2 gap-4">
            <legend className="sr-only">When it runs</legend>
            <Day name="fromAt" label="From" at={brief.fromAt} />
            <Day name="untilAt" label="Until" at={brief.untilAt} />
          </fieldset>
          <Limits limits={brief.limits} />
          <Assumptions assumed={brief.assumptions} />
        </div>
      </div>
    </ActionForm>
  );
}

function PurposeFields({
  brief,
  isMixed,
  onMixed,
}: {
  brief: StoredBrief;
  isMixed: boolean;
  onMixed(isMixed: boolean): void;
}) {
  return (
    <fieldset>
      <legend className="font-semibold">Purpose</legend>
      <div className="mt-1 flex items-center gap-4">
        <select name="purpose" aria-label="Purpose" className="field" defaultValue={brief.purpose}>
          {PURPOSES.map(([value, label]) => (
            <option key={value} value={value}>
              {value}: {label}
            </option>
          ))}
        </select>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={isMixed} onChange={(event) => onMixed(event.target.checked)} />
          mixed with others
        </label>
      </div>
      {isMixed && (
        <div className="mt-2 flex gap-4">
          {PURPOSES.map(([purpose]) => (
            <label key={purpose} className="flex items-center gap-1.5">
              {purpose}
              <input
                name={`mix-${purpose}`}
                className="field w-12 py-0.5 text-right"
                inputMode="decimal"
                aria-label={`How much ${purpose} counts`}
                defaultValue={brief.mix?.[purpose] ?? (purpose === brief.purpose ? 6 : 0)}
              />
            </label>
          ))}
          <span className="small self-center">0 to 10: how much each counts</span>
        </div>
      )}
    </fieldset>
  );
}

function MoneyFields({ brief }: { brief: StoredBrief }) {
  const amount = (name: keyof StoredBrief & string, label: string, minor: number | null) => (
    <Labelled label={label}>
      <input name={name} className="field w-full text-right" inputMode="decimal" defaultValue={money(minor, null)} />
    </Labelled>
  );
  const whole = (name: keyof StoredBrief & string, label: string, value: number) => (
    <Labelled label={label}>
      <input name={name} className="field w-full text-right" inputMode="numeric" defaultValue={value} />
    </Labelled>
  );
  return (
    <fieldset>
      <legend className="font-semibold">Money</legend>
      <p className="small mb-2">
        The budget is a hard limit: no order may break it. A suggested maximum bid is what it is worth, from today’s
        view, over one and the margin, less fees and renewals.
      </p>
      <div className="grid grid-cols-1 lg:grid-cols-2 gap-x-4 gap-y-3">
        {amount('budgetMinor', 'Budget', brief.budgetMinor)}
        <Labelled label="Currency">
          <input name="currency" className="field w-full" maxLength={3} defaultValue={brief.currency} />
        </Labelled>
        {amount('feesMinor', 'Fees of a purchase', brief.feesMinor)}
        {amount('renewalMinor', 'Renewal, a year', brief.renewalMinor)}
        {whole('marginPercent', 'Margin over cost, %', brief.marginPercent)}
        {whole('months', 'Months until it pays', brief.months)}
        {whole('interestPercent', 'Interest, % a year', brief.interestPercent)}
      </div>
    </fieldset>
  );
}

function Day({ name, label, at }: { name: string; label: string; at: number | null }) {
  return (
    <Labelled label={label}>
      <input
        type="date"
        name={name}
        className="field w-full"
        defaultValue={at === null ? '' : new Date(at).toISOString().slice(0, 10)}
      />
    </Labelled>
  );
}

function Limits({ limits }: { limits: HouseLimits }) {
  return (
    <fieldset>
      <legend className="font-semibold">
        Hard limits <span className="small ml-1">what it must have to be looked at; empty: anything</span>
      </legend>
      {LIMITS.map(([key, words, unit]) => (
        <label key={key} className="flex items-center border-t border-faint py-0.5">
          {words}
          <input
            name={`limit-${key}`}
            className="field ml-auto w-16 py-0.5 text-right"
            inputMode="decimal"
            defaultValue={limits[key] === null || limits[key] === undefined ? '' : String(limits[key])}
          />
          <span className="small w-14 pl-2">{unit}</span>
        </label>
      ))}
      <div className="flex gap-4 border-t border-faint py-1">
        <label className="flex items-center gap-1.5">
          <input type="checkbox" name="limit-noHyphens" defaultChecked={limits.noHyphens} /> no hyphens
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" name="limit-noDigits" defaultChecked={limits.noDigits} /> no digits
        </label>
      </div>
    </fieldset>
  );
}

const ASSUMED: [key: keyof WorthAssumptions, words: string, unit: string][] = [
  ['firstClickPercent', 'of searches click the first result', '%'],
  ['ownNamePercent', 'of its worth has a visit that asks for the old owner', '%'],
  ['halfLifeYears', 'off line for half of its places to be lost', 'years'],
  ['competitionPercent', 'taken by the strongest competition', '%'],
  ['earningMonths', 'of visits are counted', 'months'],
  ['linkMinor', 'for a link from a site of the subject, strength 20', 'price'],
  ['linkDoubling', 'of strength double that price', 'steps'],
  ['otherSubjectPercent', 'counts a link from another subject', '%'],
  ['carryPercent', 'of a link is carried over by a redirect', '%'],
];
const shownAssumption = (key: keyof WorthAssumptions, value: number) => (key === 'linkMinor' ? value / 100 : value);

/** What worth is reckoned with where nobody counted. */
function Assumptions({ assumed }: { assumed: WorthAssumptions }) {
  return (
    <fieldset>
      <legend className="font-semibold">
        Assumed for worth <span className="small ml-1">of visits and of links; change what you know better</span>
      </legend>
      {ASSUMED.map(([key, words, unit]) => (
        <label key={key} className="flex items-center border-t border-faint py-0.5">
          <input
            name={`assumed-${key}`}
            className="field w-14 py-0.5 text-right"
            inputMode="decimal"
            defaultValue={shownAssumption(key, assumed[key])}
          />
          <span className="small w-14 pl-2">{unit}</span> {words}
        </label>
      ))}
    </fieldset>
  );
}

/** How much each part of the fit counts; what is left empty is as the purpose has it. */
function Weights({ brief }: { brief: StoredBrief }) {
  const own = brief.mix ? mixedWeights(brief.mix) : PURPOSE_WEIGHTS[brief.purpose];
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">
        What counts for the fit <span className="small ml-1">0 to 10; empty: as the purpose has it</span>
      </legend>
      <div className="grid grid-cols-1 lg:grid-cols-2 gap-x-8">
        {FIT_PARTS.map((part) => (
          <label key={part} className="flex items-center justify-between border-t border-faint py-0.5">
            {FIT_TITLES[part]}
            <input
              name={`weight-${part}`}
              className="field w-14 py-0.5 text-right"
              inputMode="decimal"
              placeholder={String(own[part])}
              defaultValue={brief.weights ? String(brief.weights[part]) : ''}
            />
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** @throws with words for people on what makes no sense. */
function bodyOf(form: FormData, isMixed: boolean) {
  const amount = (name: string, what: string): number | null => {
    const minor = readBid(String(form.get(name)));
    if (minor === undefined) throw new Error(`${what} is no amount; write it as 500 or 500.00.`);
    return minor;
  };
  const number = (name: string, what: string, most: number): number | null => {
    const text = String(form.get(name) ?? '')
      .trim()
      .replace(',', '.');
    if (text === '') return null;
    const value = Number(text);
    if (!(value >= 0 && value <= most)) throw new Error(`${what}: a number from 0 to ${most}.`);
    return value;
  };
  const day = (name: string) => {
    const text = String(form.get(name) ?? '');
    return text === '' ? null : Date.parse(text);
  };
  const mix = isMixed
    ? (Object.fromEntries(
        PURPOSES.map(([purpose]) => [purpose, number(`mix-${purpose}`, `How much ${purpose} counts`, 10) ?? 0]),
      ) as Record<Purpose, number>)
    : null;
  const purpose = form.get('purpose') as Purpose;
  const bounds = Object.fromEntries(
    LIMITS.map(([key, words]) => [key, number(`limit-${key}`, words, key === 'leastReferring' ? 1e9 : 100)]),
  );
  return {
    name: String(form.get('name')),
    purpose,
    mix,
    subjectWords: wordsOf(form.get('subjectWords')),
    trustedSites: wordsOf(form.get('trustedSites')),
    excludedEndings: wordsOf(form.get('excludedEndings')),
    requiredWords: wordsOf(form.get('requiredWords')),
    unwantedWords: wordsOf(form.get('unwantedWords')),
    languages: wordsOf(form.get('languages')).map((code) => code.toLowerCase()),
    countries: wordsOf(form.get('countries')).map((code) => code.toUpperCase()),
    weights: weightsOf(form, mix ? mixedWeights(mix) : PURPOSE_WEIGHTS[purpose]),
    budgetMinor: amount('budgetMinor', 'The budget'),
    currency: String(form.get('currency')).toUpperCase(),
    feesMinor: amount('feesMinor', 'The fees') ?? 0,
    renewalMinor: amount('renewalMinor', 'The renewal') ?? 0,
    marginPercent: Math.round(number('marginPercent', 'The margin', 10_000) ?? 0),
    months: Math.round(number('months', 'Months', 600) ?? 0),
    interestPercent: Math.round(number('interestPercent', 'Interest', 1000) ?? 0),
    assumptions: assumptionsOf(number),
    fromAt: day('fromAt'),
    untilAt: day('untilAt'),
    limits: {
      ...bounds,
      noHyphens: form.get('limit-noHyphens') === 'on',
      noDigits: form.get('limit-noDigits') === 'on',
    },
  };
}

/** Weights as typed; null where they are the purpose's own. @throws on what is no weight. */
function weightsOf(form: FormData, own: FitWeights): FitWeights | null {
  let isOther = false;
  const weights = { ...own };
  for (const part of FIT_PARTS) {
    const text = String(form.get(`weight-${part}`) ?? '').trim();
    if (text === '') continue;
    const weight = Number(text);
    if (!(weight >= 0 && weight <= 10)) throw new Error(`"${FIT_TITLES[part]}" counts from 0 to 10.`);
    weights[part] = weight;
    if (weight !== own[part]) isOther = true;
  }
  return isOther ? weights : null;
}

function assumptionsOf(number: (name: string, what: string, most: number) => number | null): WorthAssumptions {
  const assumed = { ...ASSUMPTIONS };
  for (const [key, words] of ASSUMED) {
    const value = number(`assumed-${key}`, `What ${words}`, 1e6) ?? ASSUMPTIONS[key];
    assumed[key] = key === 'linkMinor' ? Math.round(value * 100) : value;
  }
  return assumed;
}
