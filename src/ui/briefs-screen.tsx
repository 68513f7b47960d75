'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { FIT_PARTS, FIT_TITLES, type FitWeights, PURPOSE_WEIGHTS } from '../core/fit/fit';
import { call } from './api';
import { ActionForm, Labelled, wordsOf } from './fields';
import { readBid } from './shortlist/stages';

interface BriefView {
  id: number;
  name: string;
  purpose: 'resell' | 'rebuild' | 'redirect' | 'prospect';
  subjectWords: string[];
  trustedSites: string[];
  excludedEndings: string[];
  budgetMinor: number | null;
  currency: string;
  requiredWords?: string[];
  unwantedWords?: string[];
  languages?: string[];
  weights?: FitWeights | null;
}

const PURPOSES = [
  ['resell', 'sell the name on'],
  ['rebuild', 'bring the site back'],
  ['redirect', 'point its links elsewhere'],
  ['prospect', 'offer a replacement for dead pages'],
] as const;

const FRESH: BriefView = {
  id: 0,
  name: '',
  purpose: 'rebuild',
  subjectWords: [],
  trustedSites: [],
  excludedEndings: [],
  budgetMinor: null,
  currency: 'EUR',
};

/** What is looked for and why. Trust starts from the trusted sites of all briefs. */
export function BriefsScreen({ briefs, current }: { briefs: BriefView[]; current: number }) {
  const [chosen, setChosen] = useState<number>(current);
  const brief = briefs.find((entry) => entry.id === chosen) ?? FRESH;
  return (
    <div className="mx-auto grid max-w-[1080px] grid-cols-[240px_1fr] gap-10 px-6 py-6">
      <nav aria-label="Briefs">
        <h1 className="mb-2">Briefs</h1>
        {briefs.map((entry) => (
          <button
            key={entry.id}
            type="button"
            aria-current={entry.id === chosen}
            onClick={() => setChosen(entry.id)}
            className={`block w-full border-t border-rule py-1.5 text-left ${entry.id === chosen ? 'font-semibold' : ''}`}
          >
            {entry.name}
            <span className="small block font-normal">
              {PURPOSES.find(([purpose]) => purpose === entry.purpose)?.[1]}
            </span>
          </button>
        ))}
        <button type="button" className="quiet mt-3" onClick={() => setChosen(0)}>
          New brief
        </button>
      </nav>
      <BriefForm key={JSON.stringify(brief)} brief={brief} onSaved={setChosen} />
    </div>
  );
}

function BriefForm({ brief, onSaved }: { brief: BriefView; onSaved(id: number): void }) {
  const router = useRouter();
  const isNew = brief.id === 0;
  const save = async (form: FormData) => {
    const budgetMinor = readBid(String(form.get('budget')));
    if (budgetMinor === undefined) throw new Error('The budget is no amount; write it as 500 or 500.00.');
    const body = {
      name: String(form.get('name')),
      purpose: form.get('purpose'),
      subjectWords: wordsOf(form.get('subjectWords')),
      trustedSites: wordsOf(form.get('trustedSites')),
      excludedEndings: wordsOf(form.get('excludedEndings')),
      budgetMinor,
      currency: String(form.get('currency')).toUpperCase(),
      requiredWords: wordsOf(form.get('requiredWords')),
      unwantedWords: wordsOf(form.get('unwantedWords')),
      languages: wordsOf(form.get('languages')).map((code) => code.toLowerCase()),
      weights: weightsOf(form),
    };
    const { id } = await call<{ id: number }>(isNew ? '/briefs' : `/briefs/${brief.id}`, {
      method: isNew ? 'POST' : 'PATCH',
      body,
    });
    const undo = async () => {
      const { id: _, ...old } = brief;
      await call(`/briefs/${id}`, isNew ? { method: 'DELETE' } : { method: 'PATCH', body: old });
      if (isNew) onSaved(0);
      router.refresh();
    };
    toast(`"${body.name}" is saved`, { action: { label: 'Undo', onClick: () => void undo() } });
    onSaved(id);
    router.refresh();
  };
  return (
    <ActionForm label={isNew ? 'Add the brief' : 'Save the brief'} busyLabel="Saving" className="max-w-xl" act={save}>
      <Labelled label="Name">
        <input name="name" required className="field w-full" defaultValue={brief.name} />
      </Labelled>
      <Labelled label="Purpose">
        <select name="purpose" className="field" defaultValue={brief.purpose}>
          {PURPOSES.map(([value, label]) => (
            <option key={value} value={value}>
              {value}: {label}
            </option>
          ))}
        </select>
      </Labelled>
      <Labelled label="Words of the subject" hint="by commas or spaces">
        <input name="subjectWords" className="field w-full" defaultValue={brief.subjectWords.join(', ')} />
      </Labelled>
      <div className="grid grid-cols-3 gap-4">
        <Labelled label="Words it must say" hint="one of them">
          <input name="requiredWords" className="field w-full" defaultValue={(brief.requiredWords ?? []).join(', ')} />
        </Labelled>
        <Labelled label="Words it must not say">
          <input name="unwantedWords" className="field w-full" defaultValue={(brief.unwantedWords ?? []).join(', ')} />
        </Labelled>
        <Labelled label="Languages" hint="like en, de">
          <input name="languages" className="field w-full" defaultValue={(brief.languages ?? []).join(', ')} />
        </Labelled>
      </div>
      <Weights brief={brief} />
      <Labelled
        label="Trusted sites"
        hint="trust is counted from these, over all briefs; changing them measures it anew"
      >
        <textarea name="trustedSites" className="field h-28 w-full" defaultValue={brief.trustedSites.join('\n')} />
      </Labelled>
      <Labelled label="Endings that are out" hint="filled in when a crawl or an import starts">
        <input name="excludedEndings" className="field w-full" defaultValue={brief.excludedEndings.join(', ')} />
      </Labelled>
      <div className="flex gap-4">
        <Labelled label="Budget">
          <input
            name="budget"
            className="field w-28 text-right"
            defaultValue={brief.budgetMinor === null ? '' : (brief.budgetMinor / 100).toFixed(2)}
          />
        </Labelled>
        <Labelled label="Currency">
          <input name="currency" className="field w-20" maxLength={3} defaultValue={brief.currency} />
        </Labelled>
      </div>
    </ActionForm>
  );
}

/** Weights as typed; null where they are the purpose's own. @throws on what is no weight. */
function weightsOf(form: FormData): FitWeights | null {
  const own = PURPOSE_WEIGHTS[form.get('purpose') as BriefView['purpose']];
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

/** How much each part of the fit counts; what is left empty is as the purpose has it. */
function Weights({ brief }: { brief: BriefView }) {
  const own = PURPOSE_WEIGHTS[brief.purpose];
  return (
    <fieldset className="mb-3">
      <legend className="mb-1">
        What counts for the fit <span className="small">0 to 10; empty: as the purpose has it</span>
      </legend>
      <div className="grid grid-cols-2 gap-x-8">
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
