import type { LedgerRow } from '../../contracts/orders';
import type { Account } from '../../core/orders/ledger';
import { moment, money } from '../../core/wording/format';
import { ExportMenu } from '../export-menu';
import { useNow } from '../shell/live';

export interface BriefMoney {
  id: number;
  name: string;
  currency: string;
  budgetMinor: number | null;
  balances: Record<Account, number>;
}

/** In its brief's currency. */
export type LedgerLine = LedgerRow & { currency: string };

export function Accounts({ briefs }: { briefs: BriefMoney[] }) {
  const used = briefs.filter(({ balances, budgetMinor }) => balances.budget !== 0 || budgetMinor !== null);
  if (used.length === 0) return null;
  return (
    <section aria-label="Accounts">
      <h2>Accounts</h2>
      <table className="w-full">
        <thead>
          <tr className="small text-right">
            <th className="py-1 text-left font-normal">Brief</th>
            <th className="font-normal">held</th>
            <th className="font-normal">spent, fees</th>
            <th className="font-normal">left</th>
          </tr>
        </thead>
        <tbody>
          {used.map(({ id, name, currency, budgetMinor, balances: { held, spent, fees, budget } }) => (
            <tr key={id} className="border-t border-rule text-right">
              <td className="max-w-40 truncate py-1 text-left">{name}</td>
              <td>{money(held, null)}</td>
              <td>{money(spent + fees, null)}</td>
              <td className="whitespace-nowrap">
                {budgetMinor === null ? 'no budget' : money(budgetMinor + budget, currency)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

export function Ledger({ lines }: { lines: LedgerLine[] }) {
  const now = useNow();
  return (
    <details>
      <summary className="font-semibold">Ledger, in double entry</summary>
      <p className="text-right">
        <ExportMenu address="/api/v1/export?what=ledger" label="the ledger of all briefs" />
      </p>
      <table className="mt-1 w-full" aria-label="Ledger">
        <thead>
          <tr className="small text-left">
            <th className="py-1 font-normal">posting</th>
            <th className="font-normal">when</th>
            <th className="font-normal">what</th>
            <th className="font-normal">account</th>
            <th className="text-right font-normal">amount</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.id} className="border-t border-faint">
              <td className="py-0.5">{line.posting}</td>
              <td>{moment(line.at, now)}</td>
              <td className="wrap-anywhere">{line.words}</td>
              <td>{line.account}</td>
              <td className="text-right whitespace-nowrap">{money(line.amountMinor, line.currency)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
