import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import type { PlanEntry } from '../../contracts/plan';
import { money } from '../../core/wording/format';
import { call } from '../api';
import { readBid } from '../shortlist/stages';

const FIELDS = [
  ['worthLowMinor', 'Worth at least'],
  ['worthHighMinor', 'Worth at most'],
  ['feesMinor', 'Fees'],
  ['maximumBidMinor', 'Maximum bid'],
] as const;

export const AmountTitles = () => (
  <span className="inline-flex gap-1.5">
    {['worth', 'to', 'fees', 'at most'].map((title) => (
      <span key={title} className="w-17 text-right">
        {title}
      </span>
    ))}
  </span>
);

/** What the person says of one domain; each is kept when its field is left. */
export function Amounts({ entry, briefId, feesMinor }: { entry: PlanEntry; briefId: number; feesMinor: number }) {
  const router = useRouter();
  const [wrong, setWrong] = useState<string | null>(null);
  const keep = async (field: (typeof FIELDS)[number][0], text: string) => {
    const minor = readBid(text);
    setWrong(minor === undefined ? field : null);
    if (minor === undefined || minor === entry[field]) return;
    const change = (value: number | null) =>
      call('PATCH /shortlist/{name}', { params: { name: entry.name }, body: { briefId, [field]: value } });
    try {
      await change(minor);
      router.refresh();
      toast(`${entry.display}: kept`, {
        action: {
          label: 'Undo',
          onClick: () =>
            void change(entry[field])
              .then(() => router.refresh())
              .catch((error: Error) => toast(error.message)),
        },
      });
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <span className="inline-flex gap-1.5">
      {FIELDS.map(([field, label]) => {
        const minor = entry[field];
        const text = minor === null ? '' : money(minor, null);
        return (
          <input
            key={`${field} ${text}`}
            className="field w-17 py-0.5 text-right"
            inputMode="decimal"
            aria-label={`${label} of ${entry.display}`}
            aria-invalid={wrong === field}
            placeholder={field === 'feesMinor' ? money(feesMinor, null) : field === 'maximumBidMinor' ? 'none' : ''}
            defaultValue={text}
            onBlur={(event) => void keep(field, event.target.value)}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          />
        );
      })}
      {wrong && <span className="small">write it as 140 or 140.50</span>}
    </span>
  );
}
