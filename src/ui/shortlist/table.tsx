'use client';

import { useState } from 'react';
import type { Confirmed } from '../../core/lifecycle/confirmed';
import { ago, count, isSoon, linksOrigin, money, phaseOrigin, phaseWords, score } from '../../core/wording/format';
import { ConfirmNote } from '../dossier/confirm';
import { FitBar, fitWords } from '../fit-bar';
import Link from '../link';
import { MaximumSteps } from '../orders/maximum-steps';
import { openOrder } from '../orders/open';
import { WayList } from '../orders/way-list';
import { useNow } from '../shell/live';
import type { Entry, EntryChange } from './entry';
import { readBid, STAGE_STEPS, type StageName } from './stages';

const STALE_MS = 86_400_000;

interface TableProps {
  entries: Entry[];
  currency: string;
  ticked: ReadonlySet<number>;
  confirmed: Record<string, Confirmed | 'asking'>;
  onTick(entry: Entry, isTicked: boolean): void;
  onTickAll(isTicked: boolean): void;
  onChange(entry: Entry, change: EntryChange): void;
  onConfirm(entry: Entry): void;
  onRemove(entry: Entry): void;
}

/** The shortlist as a table, with what each rests on and how old that is. */
export function ShortlistTable(props: TableProps) {
  const { entries, ticked, currency, onTickAll } = props;
  return (
    <table className="mt-3 w-full bg-sheet">
      <thead>
        <tr className="small border-b border-rule text-left">
          <th className="w-8 px-2 py-1.5">
            <input
              type="checkbox"
              aria-label="Tick all"
              checked={ticked.size > 0 && ticked.size === entries.length}
              onChange={(event) => onTickAll(event.target.checked)}
            />
          </th>
          <th className="w-52 px-2 font-normal">Domain</th>
          <th className="px-2 font-normal">Fit</th>
          <th className="px-2 font-normal">Links and spam</th>
          <th className="px-2 font-normal">How it is to be had</th>
          <th className="px-2 font-normal">Maximum bid, {currency}</th>
          <th className="px-2 font-normal">Stage, next step</th>
          <th className="w-1/8 px-2 font-normal">Note</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {entries.map((entry) => (
          <EntryRow key={entry.domainId} entry={entry} {...props} />
        ))}
      </tbody>
    </table>
  );
}

function EntryRow({
  entry,
  currency,
  ticked,
  confirmed,
  onTick,
  onChange,
  onConfirm,
  onRemove,
}: TableProps & { entry: Entry }) {
  const now = useNow();
  const { domain } = entry;
  const isStale = entry.oldestAt === null || now - entry.oldestAt > STALE_MS;
  return (
    <tr className="border-b border-faint align-top" data-domain={domain.name}>
      <td className="px-2 py-2">
        <input
          type="checkbox"
          aria-label={`Tick ${domain.display}`}
          checked={ticked.has(entry.domainId)}
          onChange={(event) => onTick(entry, event.target.checked)}
        />
      </td>
      <td className="px-2 py-2">
        <Link href={`/domains/${domain.name}`} className="font-semibold wrap-anywhere hover:underline">
          {domain.display}
        </Link>
        {entry.order && <span className="block font-semibold">{entry.order}</span>}
        {entry.tags.length > 0 && <span className="small block">{entry.tags.join(', ')}</span>}
        {entry.alsoIn.length > 0 && <span className="small block">also in {entry.alsoIn.join(', ')}</span>}
      </td>
      <td className="px-2 py-2">
        <FitBar fit={entry.fit} width={84} />
        <span className="block whitespace-nowrap">{fitWords(entry.fit)}</span>
        {entry.fit.first > 0 && (
          <span className="small block">first under {Math.round(100 * entry.fit.first)}% of weights</span>
        )}
      </td>
      <td className="px-2 py-2" title={linksOrigin(domain, now)}>
        {domain.referringDomains === null ? 'links not known' : `${count(domain.referringDomains)} referring`}
        <span className="small block">
          strength {score(domain.strength) || 'unknown'}, trust {score(domain.trust) || 'unknown'}
        </span>
        <span className="small block">spam risk {domain.spamRisk ?? 'unknown'}</span>
      </td>
      <td className="px-2 py-2">
        <span className={isSoon(domain.dropAt, now) ? 'rounded-[3px] bg-quince px-1' : ''}>
          {phaseWords(domain, now)}
        </span>
        {entry.way !== null && (
          <WayList
            ways={entry.ways}
            chosen={entry.way}
            currency={currency}
            label={`Other ways to have ${domain.display}`}
          />
        )}
        <span className="small block" title={phaseOrigin(domain, now)}>
          {entry.oldestAt === null ? 'never asked' : `as of ${ago(entry.oldestAt, now)}`}
          {isStale && (
            <>
              {': '}
              <button type="button" className="set" onClick={() => onConfirm(entry)}>
                ask again
              </button>
            </>
          )}
        </span>
      </td>
      <td className="px-2 py-1.5">
        <BidField entry={entry} onChange={(maximumBidMinor) => onChange(entry, { maximumBidMinor })} />
        <Reckoning entry={entry} currency={currency} />
      </td>
      <td className="px-2 py-1.5">
        <select
          className="field"
          aria-label={`Stage of ${domain.display}`}
          value={entry.stage}
          onChange={(event) => {
            const stage = event.target.value as StageName;
            onChange(entry, { stage });
            if (stage === 'to act on') onConfirm(entry);
          }}
        >
          {STAGE_STEPS.map(([name]) => (
            <option key={name}>{name}</option>
          ))}
        </select>
        <span className="small block">{STAGE_STEPS.find(([name]) => name === entry.stage)?.[1]}</span>
        <ConfirmState
          state={confirmed[domain.name]}
          canAsk={entry.stage === 'to act on'}
          now={now}
          onAsk={() => onConfirm(entry)}
        />
      </td>
      <td className="px-2 py-1.5">
        <input
          className="field w-full"
          aria-label={`Note on ${domain.display}`}
          key={entry.note}
          defaultValue={entry.note}
          onBlur={(event) => event.target.value !== entry.note && onChange(entry, { note: event.target.value })}
        />
        {entry.notes.count > 0 && (
          <Link href={`/domains/${domain.name}#notes`} className="small block truncate" title={entry.notes.last ?? ''}>
            {entry.notes.count === 1 ? 'a note' : `${entry.notes.count} notes`}, the last {ago(entry.notes.lastAt, now)}
          </Link>
        )}
      </td>
      <td className="px-2 py-1.5">
        <div className="flex flex-col gap-1">
          {entry.stage !== 'had' && (
            <button
              type="button"
              className={entry.stage === 'to act on' ? 'press' : 'quiet'}
              aria-label={`Order ${domain.display}`}
              onClick={() => openOrder(domain.name)}
            >
              Order
            </button>
          )}
          <button
            type="button"
            className="quiet"
            aria-label={`Take ${domain.display} off`}
            onClick={() => onRemove(entry)}
          >
            Take off
          </button>
        </div>
      </td>
    </tr>
  );
}

/** How the maximum is reckoned; where the person's own is higher, that it is. */
function Reckoning({
  entry: { maximum, mostMinor, maximumBidMinor, domain },
  currency,
}: {
  entry: Entry;
  currency: string;
}) {
  if (maximum === null)
    return (
      <Link href="/shortlist/plan" className="set small block w-fit">
        say its worth
      </Link>
    );
  const isOver = maximumBidMinor !== null && maximumBidMinor > maximum.maximumMinor;
  return (
    <details className="small">
      <summary>
        {isOver ? `over what leaves the margin` : maximum.maximumMinor === 0 ? 'not worth its fees' : 'how'}
      </summary>
      <MaximumSteps
        maximum={maximum}
        ownMinor={maximumBidMinor}
        mostMinor={mostMinor}
        label={`How the maximum of ${domain.display} is reckoned, ${currency}`}
      />
    </details>
  );
}

function ConfirmState({
  state,
  canAsk,
  now,
  onAsk,
}: {
  state: Confirmed | 'asking' | undefined;
  canAsk: boolean;
  now: number;
  onAsk(): void;
}) {
  if (state === 'asking') return <span className="small block">asking, down to the registrar …</span>;
  if (state)
    return (
      <div className="mt-1 max-w-72">
        <ConfirmNote confirmed={state} now={now} />
      </div>
    );
  if (!canAsk) return null;
  return (
    <button type="button" className="set" onClick={onAsk}>
      confirm it now
    </button>
  );
}

function BidField({ entry, onChange }: { entry: Entry; onChange(minor: number | null): void }) {
  const shown = entry.maximumBidMinor === null ? '' : money(entry.maximumBidMinor, null);
  const reckoned = entry.mostMinor === null ? '' : money(Math.round(entry.mostMinor / 100) * 100, null);
  const [isWrong, setWrong] = useState(false);
  return (
    <>
      <input
        className="field w-24 text-right"
        inputMode="decimal"
        aria-label={`Maximum bid for ${entry.domain.display}`}
        aria-invalid={isWrong}
        key={shown}
        defaultValue={shown}
        placeholder={reckoned}
        onBlur={(event) => {
          const minor = readBid(event.target.value);
          setWrong(minor === undefined);
          if (minor !== undefined && minor !== entry.maximumBidMinor) onChange(minor);
        }}
      />
      {isWrong && <span className="block">write it as 140 or 140.50</span>}
    </>
  );
}
