'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useWatch } from 'react-hook-form';
import { z } from 'zod';
import type { StoredBrief } from '../../contracts/briefs';
import { briefSieve } from '../../core/fit/brief-sieve';
import { PURPOSES, type Purpose } from '../../core/fit/purposes';
import { formatView } from '../../core/pool/conditions';
import { count, plural } from '../../core/wording/format';
import { call } from '../api';
import { AmountLine, AreaField, LineField, RadioField } from '../forms/field';
import { Form } from '../forms/form';
import { amount, words, wordsOf } from '../forms/typed';
import Link from '../link';
import { useSettled } from '../parts/use-settled';
import { useRedraw } from '../server-state';

const WISHES: [purpose: Purpose, wish: string][] = [
  ['rebuild', 'a lapsed site to bring back'],
  ['resell', 'a name to sell on'],
  ['redirect', 'links to point at pages of mine'],
  ['prospect', 'dead pages whose linkers I can write to'],
];
const LOOK_MS = 300;

const TypedFirst = z.object({
  words: words.refine((given) => given.length > 0, 'Say at least one word of the subject.'),
  purpose: z.enum(PURPOSES),
  sites: words,
  budgetMinor: amount('the budget'),
  name: z.string().trim(),
});
type Typed = z.input<typeof TypedFirst>;
type Known = { total: number; of: number } | null;

/** How many names of the pool say one of the words, a moment after the last was typed; null: no word, or not known. */
function useKnown(typed: string): Known {
  const values = wordsOf(useSettled(typed, LOOK_MS));
  const { data } = useQuery({
    queryKey: ['pool', 'with words', values],
    enabled: values.length > 0,
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) => {
      const parts = [{ type: 'text', fact: 'name', mode: 'wordish', values, not: false }];
      const { total, size } = await call('POST /pool/query', { body: { parts, limit: 0 }, signal });
      return { total, of: size };
    },
  });
  return values.length === 0 ? null : (data ?? null);
}

const question = 'block font-serif text-[17px] font-semibold';

/** Four questions that make a first brief, and the next step from there. */
export function FirstBrief({ brief, onWhole }: { brief: StoredBrief; onWhole(): void }) {
  const redraw = useRedraw();
  const [known, setKnown] = useState<Known>(null);
  const [saved, setSaved] = useState<StoredBrief | null>(null);
  const save = async ({ words: subjectWords, sites, name, ...typed }: z.output<typeof TypedFirst>) => {
    const next: StoredBrief = {
      ...brief,
      ...typed,
      name: name || `${subjectWords[0]}, to ${typed.purpose}`,
      subjectWords,
      trustedSites: sites,
    };
    const { id: _, ...body } = next;
    await call('PATCH /briefs/{id}', { params: { id: brief.id }, body });
    setSaved(next);
    redraw();
  };
  if (saved) return <Next brief={saved} known={known} onMore={onWhole} />;
  return (
    <div className="mx-auto max-w-[640px] px-6 py-8">
      <h1>What are you looking for?</h1>
      <p className="small mt-1 mb-6">
        Four questions; everything can be changed later.{' '}
        <button type="button" className="set" onClick={onWhole}>
          All fields at once
        </button>
      </p>
      <Form
        schema={TypedFirst}
        values={{ words: '', purpose: 'rebuild', sites: '', budgetMinor: '', name: '' }}
        label="That is my brief"
        busyLabel="Saving"
        className="gap-6"
        act={save}
      >
        <SubjectWords onKnown={setKnown} />
        <Wishes />
        <AreaField
          name="sites"
          label={<span className={question}>Which sites of the field do you trust?</span>}
          below="Two or three that link with care. Trust is counted from them, and a crawl of them finds the lapsed names they still link to."
          className="h-20 w-full"
          placeholder="one a line"
        />
        <div className="flex gap-6">
          <AmountLine
            name="budgetMinor"
            label={<span className={question}>How much may it cost?</span>}
            unit={brief.currency}
            below="A hard limit over all orders."
            className="w-32"
            placeholder="no limit"
          />
          <LineField
            name="name"
            label={<span className={question}>Its name</span>}
            outer="grow"
            placeholder="by its first word"
          />
        </div>
      </Form>
    </div>
  );
}

/** The words, with how many names of the pool say one of them. */
function SubjectWords({ onKnown }: { onKnown(known: Known): void }) {
  const known = useKnown(useWatch<Typed, 'words'>({ name: 'words' }));
  useEffect(() => onKnown(known), [known, onKnown]);
  return (
    <div>
      <LineField
        name="words"
        label={<span className={question}>Which words would be in its subject?</span>}
        autoFocus
        placeholder="bee hive honey apiary"
      />
      <span role="status" className="small block">
        {known === null
          ? 'by spaces or commas; forms of them count, too'
          : known.of === 0
            ? 'the pool is empty yet'
            : `${plural(known.total, 'name')} of ${count(known.of)} in the pool ${known.total === 1 ? 'says' : 'say'} one of them`}
      </span>
    </div>
  );
}

function Wishes() {
  return (
    <fieldset>
      <legend className={question}>What do you want?</legend>
      {WISHES.map(([purpose, wish]) => (
        <RadioField key={purpose} name="purpose" value={purpose} className="mt-1">
          {wish}
        </RadioField>
      ))}
    </fieldset>
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
