'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import { CrawlChangeSchema } from '../../contracts/crawl';
import { call } from '../api';
import { NumberField } from '../forms/field';
import { Form } from '../forms/form';
import { number, numberOrNone, sentBy } from '../forms/typed';
import { useRedraw } from '../server-state';
import { undoToast } from '../undo';

interface Budgets {
  depth: number | null;
  pageBudget: number;
  sitePageBudget: number | null;
  minutesBudget: number | null;
  leastFinds: number | null;
}

const TypedBudgets = sentBy(
  z.object({
    depth: numberOrNone({ isWhole: true }),
    pageBudget: number({ least: 1, isWhole: true }),
    sitePageBudget: numberOrNone({ least: 1, isWhole: true }),
    minutesBudget: numberOrNone(),
    leastFinds: numberOrNone({ most: 1000 }),
  }),
  CrawlChangeSchema,
);

const shown = (value: number | null) => (value === null ? '' : String(value));

/** Budgets of a crawl, changed while it runs; of one that has ended, they let it go on. */
export function BudgetForm({ sourceId, budgets, isOpen }: { sourceId: number; budgets: Budgets; isOpen: boolean }) {
  const redraw = useRedraw();
  // what was typed goes when it is taken back, also where it never came to be shown as what counts
  const [undone, setUndone] = useState(0);
  return (
    <Form
      key={undone}
      schema={TypedBudgets}
      values={{
        depth: shown(budgets.depth),
        pageBudget: String(budgets.pageBudget),
        sitePageBudget: shown(budgets.sitePageBudget),
        minutesBudget: shown(budgets.minutesBudget),
        leastFinds: shown(budgets.leastFinds),
      }}
      label={isOpen ? 'Change the budgets' : 'Read on with these'}
      busyLabel="Changing"
      isQuiet
      act={async (body) => {
        const { act } = await call('PATCH /sources/{id}/crawl', { params: { id: sourceId }, body });
        undoToast(isOpen ? 'The crawl goes by the new budgets' : 'The crawl goes on', act, () => {
          setUndone((times) => times + 1);
          redraw();
        });
        redraw();
      }}
    >
      <div className="flex gap-3">
        <NumberField name="depth" label="Depth" className="w-20" placeholder="no limit" />
        <NumberField name="pageBudget" label="Pages" className="w-20" />
        <NumberField name="sitePageBudget" label="Of a site" className="w-20" placeholder="none" />
        <NumberField name="minutesBudget" label="Minutes" className="w-20" placeholder="none" />
        <NumberField name="leastFinds" label="Least finds" className="w-20" placeholder="never" />
      </div>
    </Form>
  );
}

/** Leaves one site alone while the crawl runs. */
export function DropSite({ sourceId, site }: { sourceId: number; site: string }) {
  const redraw = useRedraw();
  return (
    <button
      type="button"
      className="text-muted hover:text-ink"
      aria-label={`Drop ${site}`}
      title="read no more of this site"
      onClick={async () => {
        try {
          const body = { drop: [site] };
          const { act } = await call('PATCH /sources/{id}/crawl', { params: { id: sourceId }, body });
          undoToast(`No more of ${site} is read`, act, redraw);
          redraw();
        } catch (error) {
          toast((error as Error).message);
        }
      }}
    >
      drop
    </button>
  );
}
