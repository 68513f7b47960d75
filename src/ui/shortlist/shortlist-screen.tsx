'use client';

import Link from 'next/link';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Confirmed } from '../../core/lifecycle/confirmed';
import { call } from '../api';
import { ConfirmNote, confirmDomain } from '../dossier/confirm';
import { FitBar, type FitView, fitWords } from '../fit-bar';
import { closing, count, isSoon, linksOrigin, listingWords, money, phaseOrigin, phaseWords, score } from '../format';
import { Lifeline } from '../lifeline';
import { MOST_BESIDE } from '../pool/selection';
import { useNow } from '../shell/live';
import type { DomainView } from '../types';
import { readBid, STAGE_STEPS, type StageName } from './stages';

interface Entry {
  domainId: number;
  briefId: number;
  stage: StageName;
  maximumBidMinor: number | null;
  note: string;
  domain: DomainView;
  fit: FitView & { first: number };
}

interface ShortlistScreenProps {
  brief: { id: number; name: string; budgetMinor: number | null; currency: string };
  entries: Entry[];
}

/** The domains under consideration for a brief. Every change is kept at once and can be undone. */
export function ShortlistScreen({ brief, entries: given }: ShortlistScreenProps) {
  const now = useNow();
  const [entries, setEntries] = useState(given);
  const [ticked, setTicked] = useState<string[]>([]);
  const [confirmed, setConfirmed] = useState<Record<string, Confirmed | 'asking'>>({});
  const open = entries.filter((entry) => entry.stage !== 'let go');
  const committed = open.reduce((sum, entry) => sum + (entry.maximumBidMinor ?? 0), 0);

  const change = async (
    entry: Entry,
    part: Partial<Pick<Entry, 'stage' | 'maximumBidMinor' | 'note'>>,
    isUndo = false,
  ) => {
    setEntries((before) => before.map((other) => (other.domainId === entry.domainId ? { ...other, ...part } : other)));
    try {
      await call(`/shortlist/${entry.domain.name}`, { method: 'PATCH', body: { briefId: brief.id, ...part } });
      const old = { stage: entry.stage, maximumBidMinor: entry.maximumBidMinor, note: entry.note };
      if (!isUndo)
        toast(`${entry.domain.display} changed`, {
          action: { label: 'Undo', onClick: () => void change({ ...entry, ...part }, old, true) },
        });
    } catch (error) {
      setEntries((before) => before.map((other) => (other.domainId === entry.domainId ? entry : other)));
      toast((error as Error).message);
    }
  };
  /** Before money moves the verdict is taken again, down to the registrar. */
  const confirm = async ({ domain: { name } }: Entry) => {
    const note = (what: Confirmed | 'asking' | null) =>
      setConfirmed(({ [name]: _, ...others }) => (what ? { ...others, [name]: what } : others));
    note('asking');
    try {
      note(await confirmDomain(name));
    } catch (error) {
      note(null);
      toast((error as Error).message);
    }
  };
  const putBack = async (entry: Entry) => {
    const { stage, maximumBidMinor, note } = entry;
    await call('/shortlist', { body: { briefId: brief.id, names: [entry.domain.name] } });
    await call(`/shortlist/${entry.domain.name}`, {
      method: 'PATCH',
      body: { briefId: brief.id, stage, maximumBidMinor, note },
    });
    setEntries((before) => [...before, entry]);
  };
  const remove = async (entry: Entry) => {
    try {
      await call(`/shortlist/${entry.domain.name}?brief=${brief.id}`, { method: 'DELETE' });
      setEntries((before) => before.filter((other) => other.domainId !== entry.domainId));
      toast(`${entry.domain.display} is off the shortlist`, {
        action: { label: 'Undo', onClick: () => void putBack(entry) },
      });
    } catch (error) {
      toast((error as Error).message);
    }
  };

  return (
    <div className="px-6 py-6">
      <div className="flex items-baseline gap-6">
        <h1>Shortlist for {brief.name}</h1>
        <span className="text-muted">
          {count(open.length)} under consideration, maximum bids {money(committed, brief.currency)}
          {brief.budgetMinor !== null && ` of a budget of ${money(brief.budgetMinor, brief.currency)}`}
        </span>
        <span className="ml-auto flex gap-2">
          {ticked.length > 1 && (
            <Link className="press" href={`/compare?${new URLSearchParams(ticked.map((name) => ['name', name]))}`}>
              Compare {ticked.length}
            </Link>
          )}
          <Link className="quiet" href="/shortlist/plan">
            Bid plan
          </Link>
          <a className="quiet" href={`/api/v1/export?what=shortlist&format=csv&brief=${brief.id}`} download>
            Export CSV
          </a>
        </span>
      </div>
      {brief.budgetMinor !== null && committed > brief.budgetMinor && (
        <p role="alert" className="mt-2 inline-block bg-quince px-3 py-1.5">
          The maximum bids are {money(committed - brief.budgetMinor, brief.currency)} over the budget.
        </p>
      )}
      {entries.length === 0 ? (
        <p className="mt-4 max-w-prose border-t border-rule pt-4">
          Nothing is shortlisted for this brief. In the{' '}
          <Link className="set" href="/pool">
            pool
          </Link>
          , press s on a domain, or select several and choose Shortlist.
        </p>
      ) : (
        <table className="mt-4 w-full bg-sheet">
          <thead>
            <tr className="small border-b border-rule text-left">
              <th className="w-56 px-2 py-1.5 font-normal">Domain</th>
              <th className="px-2 font-normal">What happened</th>
              <th className="px-2 font-normal">Fit</th>
              <th className="px-2 font-normal">Life</th>
              <th className="px-2 text-right font-normal">Referring</th>
              <th className="px-2 text-right font-normal">Strength · trust</th>
              <th className="px-2 text-right font-normal">Spam risk</th>
              <th className="w-36 px-2 font-normal">Listing</th>
              <th className="px-2 font-normal">Stage, next step</th>
              <th className="px-2 font-normal">Maximum bid, {brief.currency}</th>
              <th className="w-1/8 px-2 font-normal">Note</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {entries.map((entry) => {
              const { domain } = entry;
              return (
                <tr key={entry.domainId} className="border-b border-faint align-top" data-domain={domain.name}>
                  <td className="px-2 py-2">
                    <input
                      type="checkbox"
                      className="mr-1.5 align-middle"
                      aria-label={`Compare ${domain.display}`}
                      checked={ticked.includes(domain.name)}
                      disabled={!ticked.includes(domain.name) && ticked.length >= MOST_BESIDE}
                      onChange={(event) =>
                        setTicked((before) =>
                          event.target.checked
                            ? [...before, domain.name]
                            : before.filter((name) => name !== domain.name),
                        )
                      }
                    />
                    <Link href={`/domains/${domain.name}`} className="font-semibold wrap-anywhere hover:underline">
                      {domain.display}
                    </Link>
                  </td>
                  <td className="px-2 py-2">
                    <span className={isSoon(domain.dropAt, now) ? 'rounded-[3px] bg-quince px-1' : ''}>
                      {phaseWords(domain, now)}
                    </span>
                    {domain.phaseSource && (
                      <span className="small block">{phaseOrigin(domain, now).split(' (')[0]}</span>
                    )}
                  </td>
                  <td className="px-2 py-2">
                    <FitBar fit={entry.fit} width={84} />
                    <span className="block whitespace-nowrap">{fitWords(entry.fit)}</span>
                    {entry.fit.first > 0 && (
                      <span className="small block">first under {Math.round(100 * entry.fit.first)}% of weights</span>
                    )}
                  </td>
                  <td className="px-2 py-2">
                    <Lifeline life={domain} now={now} width={96} height={18} />
                  </td>
                  <td className="px-2 py-2 text-right" title={linksOrigin(domain, now)}>
                    {count(domain.referringDomains)}
                  </td>
                  <td className="px-2 py-2 text-right whitespace-nowrap" title={linksOrigin(domain, now)}>
                    {score(domain.strength)} · {score(domain.trust)}
                  </td>
                  <td className="px-2 py-2 text-right">{domain.spamRisk ?? ''}</td>
                  <td className="px-2 py-2">
                    {listingWords(domain)} {money(domain.priceMinor, domain.currency)}{' '}
                    <span className={isSoon(domain.closingAt, now) ? 'rounded-[3px] bg-quince px-1' : ''}>
                      {closing(domain.closingAt, now)}
                    </span>
                  </td>
                  <td className="px-2 py-1.5">
                    <select
                      className="field"
                      aria-label={`Stage of ${domain.display}`}
                      value={entry.stage}
                      onChange={(event) => {
                        const stage = event.target.value as StageName;
                        void change(entry, { stage });
                        if (stage === 'to act on') void confirm(entry);
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
                      onAsk={() => void confirm(entry)}
                    />
                  </td>
                  <td className="px-2 py-1.5">
                    <BidField entry={entry} onChange={(maximumBidMinor) => void change(entry, { maximumBidMinor })} />
                  </td>
                  <td className="px-2 py-1.5">
                    <input
                      className="field w-full"
                      aria-label={`Note on ${domain.display}`}
                      key={entry.note}
                      defaultValue={entry.note}
                      onBlur={(event) =>
                        event.target.value !== entry.note && void change(entry, { note: event.target.value })
                      }
                    />
                  </td>
                  <td className="px-2 py-1.5">
                    <button
                      type="button"
                      className="quiet"
                      aria-label={`Take ${domain.display} off`}
                      onClick={() => void remove(entry)}
                    >
                      Take off
                    </button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </div>
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
