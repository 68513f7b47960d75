'use client';

import type { Turn } from '../../core/bids/plan';
import type { Confirmed } from '../../core/lifecycle/confirmed';
import { ago, count, linksOrigin, money, phaseOrigin, phaseWords, score } from '../../core/wording/format';
import { costWords, othersWords, wayWords } from '../../core/wording/orders';
import { YOU } from '../../core/work/you';
import { ConfirmNote } from '../dossier/confirm';
import Link from '../link';
import { MaximumSteps } from '../orders/maximum-steps';
import { openOrder } from '../orders/open';
import { AmountField } from '../parts/amount-field';
import { useNow } from '../shell/live';
import type { Entry, EntryChange } from './entry';
import { Falling, WorthHints } from './worth-hints';

const STALE_MS = 86_400_000;

export interface DetailProps {
  entry: Entry;
  currency: string;
  /** The brief's fees, where the entry has none of its own. */
  feesMinor: number;
  confirmed: Confirmed | 'asking' | undefined;
  onChange(entry: Entry, change: EntryChange): void;
  onConfirm(entry: Entry): void;
  onRemove(entry: Entry): void;
}

/** All that a decision on one name rests on: its maximum step by step, every way to have it, and what speaks against it. */
export function Details(props: DetailProps) {
  return (
    <div className="grid grid-cols-1 gap-x-8 gap-y-3 md:grid-cols-3">
      <WorthPart {...props} />
      <WaysPart {...props} />
      <AgainstPart {...props} />
    </div>
  );
}

function WorthPart({ entry, currency, feesMinor, onChange }: DetailProps) {
  const { domain, maximum, mostMinor, maximumBidMinor, planned } = entry;
  return (
    <section aria-label={`Worth and maximum of ${domain.display}`}>
      <h3 className="small font-semibold">Worth to you, {currency}</h3>
      <p className="mt-0.5 flex flex-wrap items-baseline gap-1.5">
        <AmountField
          label={`Worth at least of ${domain.display}`}
          className="w-18"
          minor={entry.worthLowMinor}
          onKeep={(worthLowMinor) => onChange(entry, { worthLowMinor })}
        />
        to
        <AmountField
          label={`Worth at most of ${domain.display}`}
          className="w-18"
          minor={entry.worthHighMinor}
          onKeep={(worthHighMinor) => onChange(entry, { worthHighMinor })}
        />
        <span className="ml-2">fees</span>
        <AmountField
          label={`Fees of ${domain.display}`}
          className="w-14"
          minor={entry.feesMinor}
          placeholder={money(feesMinor, null)}
          onKeep={(fees) => onChange(entry, { feesMinor: fees })}
        />
      </p>
      {planned && <WorthHints entry={planned} briefId={entry.briefId} currency={currency} />}
      {maximum === null ? (
        <p className="mt-1">The maximum is reckoned when its worth is said: a range that holds six times in ten.</p>
      ) : (
        <div className="mt-2">
          <h3 className="small font-semibold">Maximum, step by step</h3>
          <MaximumSteps
            maximum={maximum}
            ownMinor={maximumBidMinor}
            mostMinor={mostMinor}
            currency={currency}
            label={`How the maximum of ${domain.display} is reckoned, ${currency}`}
          />
          {maximumBidMinor !== null && maximumBidMinor > maximum.maximumMinor && (
            <p>Your own maximum is over what leaves the margin.</p>
          )}
        </div>
      )}
    </section>
  );
}

function WaysPart({ entry, currency, confirmed, onConfirm }: DetailProps) {
  const now = useNow();
  const { domain, ways, way, planned } = entry;
  const isStale = entry.oldestAt === null || now - entry.oldestAt > STALE_MS;
  return (
    <section aria-label={`Ways to have ${domain.display}`}>
      <h3 className="small font-semibold">Every way to have it, with all costs</h3>
      {ways.length === 0 && <p>No way to have it is known yet.</p>}
      <ul>
        {ways.map((one, n) => (
          <li key={`${one.venue} ${one.offered}`} className="border-b border-rule py-0.5 first-letter:uppercase">
            <span className={n === way ? 'font-semibold' : ''}>{wayWords(one, now)}</span>
            {'; '}
            {costWords(one, currency)}
            {one.others && <span className="small block first-letter:uppercase">{othersWords(one.others)}</span>}
          </li>
        ))}
      </ul>
      {planned && <Falling entry={planned} briefId={entry.briefId} currency={currency} />}
      {entry.stage !== 'had' && ways.length > 0 && (
        <p className="mt-1.5">
          <button
            type="button"
            className={entry.bid?.isIn || (entry.stage === 'to act on' && entry.mostMinor !== 0) ? 'press' : 'quiet'}
            aria-label={`Order ${domain.display} on the terms of this moment`}
            onClick={() => openOrder(domain.name)}
          >
            Order
          </button>
        </p>
      )}
      <p className="mt-1.5" title={phaseOrigin(domain, now)}>
        <span className="first-letter:uppercase">{phaseWords(domain, now)}</span>
        <span className="small">
          {', '}
          {entry.oldestAt === null ? 'never asked' : `as of ${ago(entry.oldestAt, now)}`}
        </span>{' '}
        {(isStale || entry.stage === 'to act on') && confirmed !== 'asking' && (
          <button type="button" className="set" onClick={() => onConfirm(entry)}>
            {entry.stage === 'to act on' ? 'confirm it now' : 'ask again'}
          </button>
        )}
      </p>
      {confirmed === 'asking' && <p className="small">asking, down to the registrar …</p>}
      {confirmed && confirmed !== 'asking' && <ConfirmNote confirmed={confirmed} now={now} />}
    </section>
  );
}

function AgainstPart({ entry, onChange, onRemove }: DetailProps) {
  const now = useNow();
  const { domain, planned, bid, turn, fit } = entry;
  const concerns = planned?.concerns ?? [];
  return (
    <section aria-label={`What speaks against ${domain.display}`}>
      <h3 className="small font-semibold">Before you pay</h3>
      {concerns.length === 0 ? (
        <p>Nothing that is known speaks against it.</p>
      ) : (
        <ul>
          {concerns.map((concern) => (
            <li key={concern} className="border-b border-rule py-0.5 first-letter:uppercase">
              {concern}
            </li>
          ))}
        </ul>
      )}
      <p className="mt-1" title={linksOrigin(domain, now)}>
        {domain.referringDomains === null
          ? 'Links are not known'
          : `${count(domain.referringDomains)} referring domains`}
        , strength {score(domain.strength) || 'unknown'}, trust {score(domain.trust) || 'unknown'}, spam risk{' '}
        {domain.spamRisk ?? 'unknown'}
        {fit.first > 0 && `; first under ${Math.round(100 * fit.first)}% of weights`}
      </p>
      {bid && (
        <p className="mt-1">
          <span className="block first-letter:uppercase">{bid.why}.</span>
          {turn && (
            <span className="small block">
              If lost: {turnWords(turn.lost)}. If won: {turnWords(turn.won)}.
            </span>
          )}
        </p>
      )}
      <label className="mt-1.5 flex items-baseline gap-2">
        <span className="small">Note</span>
        <input
          className="field w-full py-0.5"
          aria-label={`Note on ${domain.display}`}
          key={entry.note}
          defaultValue={entry.note}
          onBlur={(event) => event.target.value !== entry.note && onChange(entry, { note: event.target.value })}
        />
      </label>
      <p className="mt-1.5 flex flex-wrap items-baseline gap-x-3">
        {entry.tags.length > 0 && <span className="small">tagged {entry.tags.join(', ')}</span>}
        <span className="small">
          added {entry.addedBy !== YOU && `by ${entry.addedBy}, `}
          {ago(entry.addedAt, now)}
        </span>
        {entry.alsoIn.length > 0 && <span className="small">also in {entry.alsoIn.join(', ')}</span>}
        {entry.notes.count > 0 && (
          <Link href={`/domains/${domain.name}#notes`} className="set" title={entry.notes.last ?? ''}>
            {entry.notes.count === 1 ? 'a note' : `${entry.notes.count} notes`}, the last {ago(entry.notes.lastAt, now)}
          </Link>
        )}
        <Link href={`/domains/${domain.name}`} className="set">
          dossier
        </Link>
        <button type="button" className="set" aria-label={`Remove ${domain.display}`} onClick={() => onRemove(entry)}>
          remove
        </button>
      </p>
    </section>
  );
}

const turnWords = ({ more, less }: Turn) =>
  [
    ...(more.length > 0 ? [`more for ${more.slice(0, 3).join(', ')}`] : []),
    ...(less.length > 0 ? [`less for ${less.slice(0, 3).join(', ')}`] : []),
  ].join('; ') || 'the rest stays as it is';
