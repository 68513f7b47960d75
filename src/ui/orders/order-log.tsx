import { useState } from 'react';
import type { OrderLine } from '../../contracts/orders';
import { ago } from '../../core/wording/format';
import { useNow } from '../shell/live';

const LOG_SHOWN = 14;

export function Log({ lines }: { lines: OrderLine[] }) {
  const now = useNow();
  const [isWhole, setWhole] = useState(false);
  if (lines.length === 0) return null;
  return (
    <section aria-label="Log of every act">
      <h2>Every act</h2>
      <ol>
        {lines.slice(0, isWhole ? undefined : LOG_SHOWN).map((line) => (
          <li key={line.id} className="border-t border-faint py-1">
            <span className="small float-right ml-2 whitespace-nowrap">{ago(line.at, now)}</span>
            <span className="font-semibold wrap-anywhere">{line.name}</span>: {line.words}
            <span className="small"> · {line.who}</span>
          </li>
        ))}
      </ol>
      {lines.length > LOG_SHOWN && (
        <button type="button" className="set mt-1" onClick={() => setWhole(!isWhole)}>
          {isWhole ? 'fewer' : `all ${lines.length}`}
        </button>
      )}
    </section>
  );
}
