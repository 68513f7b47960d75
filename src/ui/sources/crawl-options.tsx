'use client';

import { LEAVE_OUT } from '../../core/crawl/leave-out';
import { LEAVE_OUT_WORDS } from '../crawl/leave-out-words';
import { AreaField, ChoiceField, LineField, NumberField, TickField } from '../forms/field';

/** Fields of a crawl beside its seeds: budgets, and under a fold how it goes about it. Within a form of TypedCrawl. */
export function CrawlOptions() {
  return (
    <>
      <div className="flex gap-4">
        <NumberField
          name="depth"
          label="Depth"
          className="w-20"
          placeholder="no limit"
          title="Links from a seed: 0 is the seeds only; empty is no limit, with the budget as the bound"
        />
        <NumberField name="pageBudget" label="Page budget" className="w-24" />
        <NumberField name="sitePageBudget" label="Of each site" className="w-24" placeholder="no limit" />
      </div>
      <LineField name="excludedEndings" label="Excluded TLDs" hint="by commas" />
      <FindSwitches />
      <details className="border-t border-rule pt-2">
        <summary>How it goes about it, and when it ends by itself</summary>
        <div className="mt-3 flex flex-col gap-3">
          <div className="flex gap-4">
            <NumberField
              name="minutesBudget"
              label="Time budget"
              hint="minutes"
              className="w-24"
              placeholder="no limit"
            />
            <NumberField
              name="leastFinds"
              label="Ends under"
              hint="finds per 1,000 pages"
              className="w-24"
              placeholder="never"
            />
          </div>
          <ChoiceField
            name="subdomains"
            label="Subdomains"
            place="before"
            options={[
              ['inside', 'belong to the site'],
              ['outside', 'are outside'],
            ]}
          />
          <ChoiceField
            name="query"
            label="Addresses with a query"
            place="before"
            options={[
              ['few', 'up to two parameters'],
              ['all', 'all'],
              ['none', 'none'],
            ]}
          />
          <div className="flex gap-4">
            <AreaField
              name="pathsIn"
              label="Only paths"
              hint="patterns, one a line"
              className="h-14 w-full"
              placeholder="^/links"
            />
            <AreaField
              name="pathsOut"
              label="No paths"
              hint="patterns, one a line"
              className="h-14 w-full"
              placeholder="^/shop/"
            />
          </div>
          <ChoiceField
            name="nofollow"
            label="Links inside marked nofollow"
            place="before"
            options={[
              ['note', 'are followed'],
              ['obey', 'are not'],
            ]}
          />
          <ChoiceField
            name="noindex"
            label="Links on noindex pages"
            place="before"
            options={[
              ['note', 'are kept, not counted'],
              ['obey', 'are not taken'],
            ]}
          />
          <ChoiceField
            name="canonical"
            label="A page that names another as its canonical"
            place="before"
            options={[
              ['note', 'is read, not counted'],
              ['obey', 'is left for the other'],
            ]}
          />
          <ChoiceField
            name="robots"
            label="robots.txt"
            place="before"
            options={[
              ['obey', 'is obeyed'],
              ['note', 'is ignored: for sites of your own only'],
            ]}
          />
        </div>
      </details>
      <TickField name="checkAfter">check and measure what is found, while it goes on</TickField>
    </>
  );
}

/** What is left out of the finds, each by a switch; they can be switched again when it is known how many that are. */
function FindSwitches() {
  return (
    <details className="border-t border-rule pt-2">
      <summary>What is left out of the finds</summary>
      <div className="mt-2 flex flex-col gap-1">
        {LEAVE_OUT.map((cause) => (
          <TickField key={cause} name="leaveOut" value={cause}>
            {LEAVE_OUT_WORDS[cause]}
          </TickField>
        ))}
        <AreaField
          name="knownSites"
          label="Known sites"
          hint="your own, those everyone links to; one a line"
          className="h-14 w-full resize-y"
        />
        <p className="small">
          The source says how many each switch keeps out, and every switch can be turned there at any time.
        </p>
      </div>
    </details>
  );
}
