'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import type { StoredBrief } from '../../contracts/briefs';
import { briefSieve } from '../../core/fit/brief-sieve';
import type { Purpose } from '../../core/fit/fit';
import { formatView } from '../../core/pool/conditions';
import { count, plural } from '../../core/wording/format';
import { call } from '../api';
import { ActionForm, wordsOf } from '../fields';
import Link from '../link';
import { readBid } from '../shortlist/stages';

const WISHES: [purpose: Purpose, wish: string][] = [
  ['rebuild', 'a lapsed site to bring back'],
  ['resell', 'a name to sell on'],
  ['redirect', 'links to point at pages of mine'],
  ['prospect', 'dead pages whose linkers I can write to'],
];
const LOOK_MS = 300;

/** Four questions that make a first brief, and the next step from there. */
export function FirstBrief({ brief, onWhole }: { brief: StoredBrief; onWhole(): void }) {
  const router = useRouter();
  const [words, setWords] = useState('');
  const [known, setKnown] = useState<{ total: number; of: number } | null>(null);
  const [saved, setSaved] = useState<StoredBrief | null>(null);
  useEffect(() => {
    const values = wordsOf(words);
    if (values.length === 0) {
      setKnown(null);
      return;
    }
    const stop = new AbortController();
    const timer = setTimeout(() => {
      const parts = [{ type: 'text', fact: 'name', mode: 'wordish', values, not: false }];
      call('POST /pool/query', { body: { parts, limit: 0 }, signal: stop.signal })
        .then(({ total, size }) => setKnown({ total, of: size }))
        .catch(() => undefined);
    }, LOOK_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [words]);
  const save = async (form: FormData) => {
    const budgetMinor = readBid(String(form.get('budget')));
    if (budgetMinor === undefined) throw new Error('The budget is no amount; write it as 500 or 500.00.');
    const subjectWords = wordsOf(form.get('words'));
    if (subjectWords.length === 0) throw new Error('Say at least one word of the subject.');
    const purpose = form.get('purpose') as Purpose;
    const next: StoredBrief = {
      ...brief,
      name: String(form.get('name')).trim() || `${subjectWords[0]}, to ${purpose}`,
      purpose,
      subjectWords,
      trustedSites: wordsOf(form.get('sites')),
      budgetMinor,
    };
    const { id: _, ...body } = next;
    await call('PATCH /briefs/{id}', { params: { id: brief.id }, body });
    setSaved(next);
    router.refresh();
  };
  if (saved) return <Next brief={saved} known={known} onMore={onWhole} />;
  const question = 'block font-serif text-[17px] font-semibold';
  return (
    <div className="mx-auto max-w-[640px] px-6 py-8">
      <h1>What are you looking for?</h1>
      <p className="small mt-1 mb-6">
        Four questions; everything can be changed later.{' '}
        <button type="button" className="set" onClick={onWhole}>
          All fields at once
        </button>
      </p>
      <ActionForm label="That is my brief" busyLabel="Saving" className="gap-6" act={save}>
        <label>
          <span className={question}>Which words would be in its subject?</span>
          <input
            name="words"
            // biome-ignore lint/a11y/noAutofocus: the first of four questions, on a screen that asks nothing else
            autoFocus
            className="field mt-1 w-full"
            placeholder="bee hive honey apiary"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <span role="status" className="small block">
            {known === null
              ? 'by spaces or commas; forms of them count, too'
              : known.of === 0
                ? 'the pool is empty yet'
                : `${plural(known.total, 'name')} of ${count(known.of)} in the pool ${known.total === 1 ? 'says' : 'say'} one of them`}
          </span>
        </label>
        <fieldset>
          <legend className={question}>What do you want?</legend>
          {WISHES.map(([purpose, wish], n) => (
            <label key={purpose} className="mt-1 flex items-baseline gap-2">
              <input type="radio" name="purpose" value={purpose} defaultChecked={n === 0} />
              {wish}
            </label>
          ))}
        </fieldset>
        <label>
          <span className={question}>Which sites of the field do you trust?</span>
          <textarea name="sites" className="field mt-1 h-20 w-full" placeholder="one a line" />
          <span className="small block">
            Two or three that link with care. Trust is counted from them, and a crawl of them finds the lapsed names
            they still link to.
          </span>
        </label>
        <div className="flex gap-6">
          <label>
            <span className={question}>How much may it cost?</span>
            <input name="budget" className="field mt-1 w-32 text-right" inputMode="decimal" placeholder="no limit" />{' '}
            {brief.currency}
            <span className="small block">A hard limit over all orders.</span>
          </label>
          <label className="grow">
            <span className={question}>Its name</span>
            <input name="name" className="field mt-1 w-full" placeholder="by its first word" />
          </label>
        </div>
      </ActionForm>
    </div>
  );
}

/** Where a first find comes from. */
function Next({
  brief,
  known,
  onMore,
}: {
  brief: StoredBrief;
  known: { total: number; of: number } | null;
  onMore(): void;
}) {
  const seeds = new URLSearchParams([['add', 'crawl'], ...brief.trustedSites.map((site) => ['seed', site])]);
  return (
    <div className="mx-auto max-w-[640px] px-6 py-8">
      <h1>{brief.name}</h1>
      <p className="mt-2">Kept. Where shall the first find come from?</p>
      <div className="mt-4 flex flex-col items-start gap-3">
        {known !== null && known.of > 0 && (
          <Link className="press" href={`/pool?${formatView(briefSieve(brief))}`}>
            The pool, through this brief
          </Link>
        )}
        {brief.trustedSites.length > 0 && (
          <Link className={known?.of ? 'quiet' : 'press'} href={`/sources?${seeds}`}>
            Crawl{' '}
            {brief.trustedSites.length === 1 ? brief.trustedSites[0] : `the ${brief.trustedSites.length} trusted sites`}
          </Link>
        )}
        <Link className="quiet" href="/sources?add=list">
          Load a drop list
        </Link>
        <Link className="quiet" href="/sources?add=feed">
          Read a venue
        </Link>
        <button type="button" className="set" onClick={onMore}>
          Say more of the brief
        </button>
      </div>
    </div>
  );
}
