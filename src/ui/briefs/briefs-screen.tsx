'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { StoredBrief } from '../../contracts/briefs';
import { plural } from '../../core/wording/format';
import { call } from '../api';
import { useRedraw } from '../server-state';
import { BriefForm } from './brief-form';
import { FRESH, PURPOSES } from './brief-view';
import { FirstBrief } from './first-brief';

/** What is looked for and why. Trust starts from the trusted sites of all briefs. */
export function BriefsScreen({ briefs, current }: { briefs: StoredBrief[]; current: number }) {
  const [chosen, setChosen] = useState<number>(current);
  // nothing is said yet: a few questions are quicker than all fields; it stays so while their answers are kept
  const [isGuided, setGuided] = useState(briefs.length === 1 && briefs[0].subjectWords.length === 0);
  const redraw = useRedraw();
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      // the server says what is wrong with it
      const body = JSON.parse(await file.text());
      const { id, shortlisted, problems } = await call('POST /briefs/file', { body });
      toast([`Taken in, with ${plural(shortlisted, 'domain')} on its shortlist`, ...problems].join('. '));
      setChosen(id);
      redraw();
    } catch (error) {
      toast(error instanceof SyntaxError ? `${file.name} is no brief file: it is not JSON.` : (error as Error).message);
    }
  };
  const brief = briefs.find((entry) => entry.id === chosen) ?? FRESH;
  if (isGuided) return <FirstBrief brief={brief} onWhole={() => setGuided(false)} />;
  return (
    <div className="mx-auto grid max-w-[1240px] grid-cols-1 lg:grid-cols-[200px_1fr] gap-8 px-6 py-6">
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
              {entry.mix && ', and more'}
            </span>
          </button>
        ))}
        <button type="button" className="quiet mt-3" onClick={() => setChosen(0)}>
          New brief
        </button>
        <label className="set mt-3 block w-fit cursor-pointer">
          Take in a brief file
          <input
            type="file"
            className="sr-only"
            accept=".json,application/json"
            onChange={(event) => void take(event.target.files?.[0])}
          />
        </label>
      </nav>
      <BriefForm key={brief.id} brief={brief} onSaved={setChosen} />
    </div>
  );
}
