'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
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
