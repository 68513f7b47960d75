'use client';

import { useFormContext, useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import type { z } from 'zod';
import type { StoredBrief } from '../../contracts/briefs';
import type { Sent } from '../../contracts/calls';
import { briefSieve } from '../../core/fit/brief-sieve';
import { FIT_PARTS, FIT_TITLES, mixedWeights, PURPOSE_WEIGHTS } from '../../core/fit/fit';
import { formatView } from '../../core/pool/conditions';
import type { WorthAssumptions } from '../../core/worth/assumptions';
import { call } from '../api';
import { AmountLine, AreaField, BareChoice, BareField, LineField, NumberField, TickField } from '../forms/field';
import { Form } from '../forms/form';
import Link from '../link';
import { useRedraw } from '../server-state';
import { PURPOSES } from './brief-view';
import { LIMITS, TypedBrief, typedBrief } from './typed-brief';

type Typed = z.input<typeof TypedBrief>;

/** All that a brief says. */
export function BriefForm({ brief, onSaved }: { brief: StoredBrief; onSaved(id: number): void }) {
  const redraw = useRedraw();
  const isNew = brief.id === 0;
  const save = async (body: Sent<'POST /briefs'>) => {
    const { id } = isNew
      ? await call('POST /briefs', { body })
      : await call('PATCH /briefs/{id}', { params: { id: brief.id }, body });
    const undo = async () => {
      const { id: _, ...old } = brief;
      if (isNew) await call('DELETE /briefs/{id}', { params: { id } });
      else await call('PATCH /briefs/{id}', { params: { id }, body: old });
      if (isNew) onSaved(0);
      redraw();
    };
    toast(`"${body.name}" is saved`, { action: { label: 'Undo', onClick: () => void undo() } });
    onSaved(id);
    redraw();
  };
  return (
    <Form
      schema={TypedBrief}
      values={typedBrief(brief)}
      label={isNew ? 'Add the brief' : 'Save the brief'}
      busyLabel="Saving"
      act={save}
    >
      <div className="grid grid-cols-1 lg:grid-cols-[1fr_380px] gap-x-10">
        <div className="flex flex-col gap-4">
          <div className="flex items-end gap-4">
            <LineField name="name" label="Name" outer="grow" />
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
          <PurposeFields />
          <LineField name="subjectWords" label="Words of the subject" hint="by commas or spaces" />
          <div className="grid grid-cols-1 lg:grid-cols-2 gap-4">
            <LineField name="requiredWords" label="Words it must say" hint="one of them" />
            <LineField name="unwantedWords" label="Words it must not say" />
            <LineField name="languages" label="Languages" hint="like en, de" />
            <LineField name="countries" label="Countries" hint="like GB, DE" />
          </div>
          <AreaField
            name="trustedSites"
            label="Trusted sites"
            hint="trust is counted from these, over all briefs; changing them measures it anew"
            className="h-24 w-full"
          />
          <LineField
            name="excludedEndings"
            label="Endings that are out"
            hint="filled in when a crawl or an import starts"
          />
          <Weights />
        </div>
        <div className="flex flex-col gap-4">
          <MoneyFields />
          <fieldset className="grid grid-cols-1 lg:grid-cols-2 gap-4">
            <legend className="sr-only">When it runs</legend>
            <LineField name="fromAt" label="From" type="date" />
            <LineField name="untilAt" label="Until" type="date" />
          </fieldset>
          <Limits />
          <Assumptions />
        </div>
      </div>
    </Form>
  );
}

function PurposeFields() {
  const isMixed = useWatch<Typed, 'isMixed'>({ name: 'isMixed' });
  return (
    <fieldset>
      <legend className="font-semibold">Purpose</legend>
      <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1">
        <BareChoice
          name="purpose"
          aria-label="Purpose"
          options={PURPOSES.map(([value, label]) => [value, `${value}: ${label}`] as const)}
        />
        <TickField name="isMixed">mixed with others</TickField>
      </div>
      {isMixed && (
        <div className="mt-2 flex gap-4">
          {PURPOSES.map(([purpose]) => (
            <span key={purpose} className="flex items-center gap-1.5">
              {purpose}
              <BareField
                name={`mix.${purpose}`}
                className="w-12 text-right"
                inputMode="decimal"
                aria-label={`How much ${purpose} counts`}
              />
            </span>
          ))}
          <span className="small self-center">0 to 10: how much each counts</span>
        </div>
      )}
    </fieldset>
  );
}

function MoneyFields() {
  return (
    <fieldset>
      <legend className="font-semibold">Money</legend>
      <p className="small mb-2">
        The budget is a hard limit: no order may break it. A suggested maximum bid is what it is worth, from today’s
        view, over one and the margin, less fees and renewals.
      </p>
      <div className="grid grid-cols-1 lg:grid-cols-2 gap-x-4 gap-y-3">
        <AmountLine name="budgetMinor" label="Budget" className="w-full" />
        <LineField name="currency" label="Currency" maxLength={3} />
        <AmountLine name="feesMinor" label="Fees of a purchase" className="w-full" />
        <AmountLine name="renewalMinor" label="Renewal, a year" className="w-full" />
        <NumberField name="marginPercent" label="Margin over cost, %" className="w-full" />
        <NumberField name="months" label="Months until it pays" className="w-full" />
        <NumberField name="interestPercent" label="Interest, % a year" className="w-full" />
      </div>
    </fieldset>
  );
}

function Limits() {
  return (
    <fieldset>
      <legend className="font-semibold">
        Hard limits <span className="small ml-1">what it must have to be looked at; empty: anything</span>
      </legend>
      {LIMITS.map(([key, words, unit]) => (
        <AmountLine
          key={key}
          name={`limits.${key}`}
          label={words}
          unit={unit}
          place="before"
          outer="border-t border-faint py-0.5"
          className="w-16 py-0.5"
        />
      ))}
      <div className="flex gap-4 border-t border-faint py-1">
        <TickField name="limits.noHyphens">no hyphens</TickField>
        <TickField name="limits.noDigits">no digits</TickField>
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

/** What worth is reckoned with where nobody counted. */
function Assumptions() {
  return (
    <fieldset>
      <legend className="font-semibold">
        Assumed for worth <span className="small ml-1">of visits and of links; change what you know better</span>
      </legend>
      {ASSUMED.map(([key, words, unit]) => (
        <AmountLine
          key={key}
          name={`assumptions.${key}`}
          label={words}
          unit={unit}
          place="behind"
          outer="border-t border-faint py-0.5"
          className="w-14 py-0.5"
        />
      ))}
    </fieldset>
  );
}

/** How much each part of the fit counts; what is left empty is as the purpose has it. */
function Weights() {
  const { control } = useFormContext<Typed>();
  const [purpose, isMixed, mix] = useWatch({ control, name: ['purpose', 'isMixed', 'mix'] });
  const own = isMixed
    ? mixedWeights({
        resell: Number(mix.resell) || 0,
        rebuild: Number(mix.rebuild) || 0,
        redirect: Number(mix.redirect) || 0,
        prospect: Number(mix.prospect) || 0,
      })
    : PURPOSE_WEIGHTS[purpose];
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">
        What counts for the fit <span className="small ml-1">0 to 10; empty: as the purpose has it</span>
      </legend>
      <div className="grid grid-cols-1 lg:grid-cols-2 gap-x-8">
        {FIT_PARTS.map((part) => (
          <AmountLine
            key={part}
            name={`weights.${part}`}
            label={FIT_TITLES[part]}
            place="before"
            outer="border-t border-faint py-0.5"
            className="w-14 py-0.5"
            placeholder={String(own[part])}
          />
        ))}
      </div>
    </fieldset>
  );
}
