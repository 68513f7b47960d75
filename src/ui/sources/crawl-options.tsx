'use client';

import { type ReactNode, useState } from 'react';
import { LEAVE_OUT, LEFT_OUT_AT_FIRST } from '../../core/crawl/leave-out';
import { DEEPEST } from '../../core/crawl/params';
import { LEAVE_OUT_WORDS } from '../crawl/leave-out-words';
import { Labelled, wordsOf } from '../fields';

/** Fields of a crawl beside its seeds: budgets, and under a fold how it goes about it. Read with crawlOptionsOf. */
export function CrawlOptions({
  excludedEndings,
  briefId,
  depth = 3,
  pageBudget = 2000,
}: {
  excludedEndings: string[];
  /** The brief whose unwanted words count. */
  briefId: number;
  /** Proposed until the person types another. */
  depth?: number;
  pageBudget?: number;
}) {
  const [typedDepth, setTypedDepth] = useState<string | null>(null);
  const [typedBudget, setTypedBudget] = useState<string | null>(null);
  return (
    <>
      <div className="flex gap-4">
        <Labelled label="Depth">
          <input
            name="depth"
            className="field w-20"
            type="number"
            min={0}
            max={DEEPEST}
            value={typedDepth ?? depth}
            onChange={(event) => setTypedDepth(event.target.value)}
            placeholder="no limit"
            title="Links from a seed: 0 is the seeds only; empty is no limit, with the budget as the bound"
          />
        </Labelled>
        <Labelled label="Page budget">
          <input
            name="pageBudget"
            className="field w-24"
            type="number"
            min={1}
            max={10_000_000}
            value={typedBudget ?? pageBudget}
            onChange={(event) => setTypedBudget(event.target.value)}
            required
          />
        </Labelled>
        <Labelled label="Of each site">
          <input name="sitePageBudget" className="field w-24" type="number" min={1} placeholder="no limit" />
        </Labelled>
      </div>
      <Labelled label="Excluded TLDs" hint="by commas">
        <input name="excludedEndings" className="field w-full" defaultValue={excludedEndings.join(', ')} />
      </Labelled>
      <FindSwitches briefId={briefId} />
      <details className="border-t border-rule pt-2">
        <summary>How it goes about it, and when it ends by itself</summary>
        <div className="mt-3 flex flex-col gap-3">
          <div className="flex gap-4">
            <Labelled label="Time budget" hint="minutes">
              <input name="minutesBudget" className="field w-24" type="number" min={1} placeholder="no limit" />
            </Labelled>
            <Labelled label="Ends under" hint="finds per 1,000 pages">
              <input name="leastFinds" className="field w-24" type="number" min={0} max={1000} placeholder="never" />
            </Labelled>
          </div>
          <Choice
            name="subdomains"
            label="Subdomains"
            options={[
              ['inside', 'belong to the site'],
              ['outside', 'are outside'],
            ]}
          />
          <Choice
            name="query"
            label="Addresses with a query"
            options={[
              ['few', 'up to two parameters'],
              ['all', 'all'],
              ['none', 'none'],
            ]}
          />
          <div className="flex gap-4">
            <Labelled label="Only paths" hint="patterns, one a line">
              <textarea name="pathsIn" className="field h-14 w-full" placeholder="^/links" />
            </Labelled>
            <Labelled label="No paths" hint="patterns, one a line">
              <textarea name="pathsOut" className="field h-14 w-full" placeholder="^/shop/" />
            </Labelled>
          </div>
          <Choice
            name="nofollow"
            label="Links inside marked nofollow"
            options={[
              ['note', 'are followed'],
              ['obey', 'are not'],
            ]}
          />
          <Choice
            name="noindex"
            label="Links on noindex pages"
            options={[
              ['note', 'are kept, not counted'],
              ['obey', 'are not taken'],
            ]}
          />
          <Choice
            name="canonical"
            label="A page that names another as its canonical"
            options={[
              ['note', 'is read, not counted'],
              ['obey', 'is left for the other'],
            ]}
          />
          <Choice
            name="robots"
            label="robots.txt"
            options={[
              ['obey', 'is obeyed'],
              ['note', 'is ignored: for sites of your own only'],
            ]}
          />
        </div>
      </details>
      <label className="flex items-center gap-2">
        <input type="checkbox" name="checkAfter" defaultChecked />
        check and measure what is found, while it goes on
      </label>
    </>
  );
}

/** What is left out of the finds, each by a switch; they can be switched again when it is known how many that are. */
export function FindSwitches({ briefId }: { briefId: number }) {
  return (
    <details className="border-t border-rule pt-2">
      <summary>What is left out of the finds</summary>
      <div className="mt-2 flex flex-col gap-1">
        {LEAVE_OUT.map((cause) => (
          <label key={cause} className="flex items-center gap-2">
            <input type="checkbox" name="leaveOut" value={cause} defaultChecked={LEFT_OUT_AT_FIRST.includes(cause)} />
            {LEAVE_OUT_WORDS[cause]}
          </label>
        ))}
        <Labelled label="Known sites" hint="your own, those everyone links to; one a line">
          <textarea name="knownSites" className="field h-14 w-full resize-y" />
        </Labelled>
        <p className="small">
          The source says how many each switch keeps out, and every switch can be turned there at any time.
        </p>
      </div>
      <input type="hidden" name="briefId" value={briefId} />
    </details>
  );
}

/** What FindSwitches holds, as the interface takes it. */
export function findSwitchesOf(form: FormData): Record<string, unknown> {
  return {
    leaveOut: form.getAll('leaveOut'),
    knownSites: wordsOf(form.get('knownSites')),
    briefId: Number(form.get('briefId')),
  };
}

function Choice({
  name,
  label,
  options,
}: {
  name: string;
  label: ReactNode;
  options: [value: string, words: string][];
}) {
  return (
    <label className="flex items-center gap-2">
      <span>{label}</span>
      <select name={name} className="field ml-auto">
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

const numberOrNull = (value: FormDataEntryValue | null) => (value === null || value === '' ? null : Number(value));
export const linesOf = (value: FormDataEntryValue | string | null) =>
  String(value ?? '')
    .split(/[\r\n]+/)
    .map((line) => line.trim())
    .filter(Boolean);

/** What CrawlOptions holds, as the interface takes it. */
export function crawlOptionsOf(form: FormData): Record<string, unknown> {
  return {
    depth: numberOrNull(form.get('depth')),
    pageBudget: Number(form.get('pageBudget')),
    sitePageBudget: numberOrNull(form.get('sitePageBudget')),
    minutesBudget: numberOrNull(form.get('minutesBudget')),
    leastFinds: numberOrNull(form.get('leastFinds')),
    excludedEndings: wordsOf(form.get('excludedEndings')),
    ...findSwitchesOf(form),
    subdomains: form.get('subdomains'),
    query: form.get('query'),
    pathsIn: linesOf(form.get('pathsIn')),
    pathsOut: linesOf(form.get('pathsOut')),
    nofollow: form.get('nofollow'),
    noindex: form.get('noindex'),
    canonical: form.get('canonical'),
    robots: form.get('robots'),
    checkAfter: form.get('checkAfter') === 'on',
  };
}
