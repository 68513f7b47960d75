'use client';

import type { ReactNode } from 'react';
import { Labelled, wordsOf } from '../fields';

/** Fields of a crawl beside its seeds: budgets, and under a fold how it goes about it. Read with crawlOptionsOf. */
export function CrawlOptions({ excludedEndings, depth = 3 }: { excludedEndings: string[]; depth?: number }) {
  return (
    <>
      <div className="flex gap-4">
        <Labelled label="Depth">
          <select name="depth" className="field" defaultValue={depth}>
            <option value="0">0, the seeds only</option>
            <option value="1">1 level</option>
            <option value="2">2 levels</option>
            <option value="3">3 levels</option>
            <option value="4">4 levels</option>
          </select>
        </Labelled>
        <Labelled label="Page budget">
          <input
            name="pageBudget"
            className="field w-24"
            type="number"
            min={1}
            max={10_000_000}
            defaultValue={2000}
            required
          />
        </Labelled>
        <Labelled label="Of each site">
          <input name="sitePageBudget" className="field w-24" type="number" min={1} placeholder="no limit" />
        </Labelled>
      </div>
      <Labelled label="Endings that are out" hint="by commas; they hold to the end">
        <input name="excludedEndings" className="field w-full" defaultValue={excludedEndings.join(', ')} />
      </Labelled>
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
    depth: Number(form.get('depth')),
    pageBudget: Number(form.get('pageBudget')),
    sitePageBudget: numberOrNull(form.get('sitePageBudget')),
    minutesBudget: numberOrNull(form.get('minutesBudget')),
    leastFinds: numberOrNull(form.get('leastFinds')),
    excludedEndings: wordsOf(form.get('excludedEndings')),
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
