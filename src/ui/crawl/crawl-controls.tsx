'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { DEEPEST } from '../../core/crawl/params';
import { call } from '../api';
import { ActionForm, Labelled } from '../fields';
import { undoToast } from '../undo';

interface Budgets {
  depth: number | null;
  pageBudget: number;
  sitePageBudget: number | null;
  minutesBudget: number | null;
  leastFinds: number | null;
}

/** Budgets of a crawl, changed while it runs; of one that has ended, they let it go on. */
export function BudgetForm({ sourceId, budgets, isOpen }: { sourceId: number; budgets: Budgets; isOpen: boolean }) {
  const router = useRouter();
  // what was typed goes when it is taken back, also where it never came to be shown as what counts
  const [undone, setUndone] = useState(0);
  const number = (form: FormData, key: string) => (form.get(key) ? Number(form.get(key)) : null);
  return (
    <ActionForm
      key={`${undone} ${JSON.stringify(budgets)}`}
      label={isOpen ? 'Change the budgets' : 'Read on with these'}
      busyLabel="Changing"
      isQuiet
      act={async (form) => {
        const { act } = await call('PATCH /sources/{id}/crawl', {
          params: { id: sourceId },
          body: {
            depth: form.get('depth') === '' ? null : Number(form.get('depth')),
            pageBudget: Number(form.get('pageBudget')),
            sitePageBudget: number(form, 'sitePageBudget'),
            minutesBudget: number(form, 'minutesBudget'),
            leastFinds: number(form, 'leastFinds'),
          },
        });
        undoToast(isOpen ? 'The crawl goes by the new budgets' : 'The crawl goes on', act, () => {
          setUndone((times) => times + 1);
          router.refresh();
        });
        router.refresh();
      }}
    >
      <div className="flex gap-3">
        <Labelled label="Depth">
          <input
            name="depth"
            type="number"
            min={0}
            max={DEEPEST}
            className="field w-20"
            defaultValue={budgets.depth ?? ''}
            placeholder="no limit"
          />
        </Labelled>
        <Labelled label="Pages">
          <input
            name="pageBudget"
            type="number"
            min={1}
            required
            className="field w-20"
            defaultValue={budgets.pageBudget}
          />
        </Labelled>
        <Labelled label="Of a site">
          <input
            name="sitePageBudget"
            type="number"
            min={1}
            className="field w-20"
            defaultValue={budgets.sitePageBudget ?? ''}
            placeholder="none"
          />
        </Labelled>
        <Labelled label="Minutes">
          <input
            name="minutesBudget"
            type="number"
            min={1}
            step="any"
            className="field w-20"
            defaultValue={budgets.minutesBudget ?? ''}
            placeholder="none"
          />
        </Labelled>
        <Labelled label="Least finds">
          <input
            name="leastFinds"
            type="number"
            min={0}
            max={1000}
            className="field w-20"
            defaultValue={budgets.leastFinds ?? ''}
            placeholder="never"
          />
        </Labelled>
      </div>
    </ActionForm>
  );
}

/** Leaves one site alone while the crawl runs. */
export function DropSite({ sourceId, site }: { sourceId: number; site: string }) {
  const router = useRouter();
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
          undoToast(`No more of ${site} is read`, act, () => router.refresh());
          router.refresh();
        } catch (error) {
          toast((error as Error).message);
        }
      }}
    >
      drop
    </button>
  );
}
