'use client';

import { toast } from 'sonner';
import type { Suggestion } from '../../contracts/learning';
import { call } from '../api';
import Link from '../link';
import { useRedraw } from '../server-state';

/** Settings that outcomes speak for changing; nothing changes until one is accepted, and it can be taken back. */
export function Suggestions({ suggestions }: { suggestions: Suggestion[] }) {
  const redraw = useRedraw();
  const send = async (suggestion: Suggestion, isBack: boolean) => {
    if (suggestion.of === 'settings')
      await call('PATCH /settings', { body: isBack ? suggestion.back : suggestion.change });
    else
      await call('PATCH /briefs/{id}', {
        params: { id: suggestion.brief },
        body: isBack ? suggestion.back : suggestion.change,
      });
    redraw();
  };
  const apply = async (suggestion: Suggestion) => {
    try {
      await send(suggestion, false);
      toast(`${suggestion.words}: changed`, {
        action: {
          label: 'Undo',
          onClick: () => void send(suggestion, true).catch((error: Error) => toast(error.message)),
        },
      });
    } catch (error) {
      toast((error as Error).message);
    }
  };
  if (suggestions.length === 0)
    return (
      <p className="small mt-1">
        Nothing yet: at least five outcomes of a kind are needed, and a difference that is worth it. Outcomes come from{' '}
        <Link href="/orders" className="set">
          orders
        </Link>
        ,{' '}
        <Link href="/holdings" className="set">
          holdings
        </Link>
        , reviews and marks.
      </p>
    );
  return (
    <table className="mt-1 w-full" aria-label="Suggested changes">
      <thead>
        <tr className="small text-left">
          <th className="py-1 font-normal">What</th>
          <th className="font-normal">Now</th>
          <th className="font-normal">Suggested</th>
          <th className="w-3/12 font-normal">What it rests on</th>
          <th className="w-3/12 font-normal">What it would have changed</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {suggestions.map((one) => (
          <tr key={one.key} className="border-t border-rule align-baseline" data-suggestion={one.key}>
            <td className="py-1.5 pr-4 font-semibold">{one.words}</td>
            <td className="pr-4">{one.now}</td>
            <td className="pr-4">{one.suggested}</td>
            <td className="pr-4">{one.evidence}</td>
            <td className="pr-4">{one.effect}</td>
            <td className="text-right">
              <button
                type="button"
                className="quiet"
                aria-label={`Accept: ${one.words}`}
                onClick={() => void apply(one)}
              >
                Accept
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
