'use client';

import type { Confirmed } from '../../core/lifecycle/confirmed';
import { ago } from '../../core/wording/format';
import { statusWords as words } from '../../core/wording/status';
import { call } from '../api';

export function confirmDomain(name: string): Promise<Confirmed> {
  return call('POST /domains/{name}/confirm', { params: { name } });
}

/** What was and what is, a change before anything else. */
export function ConfirmNote({ confirmed, now }: { confirmed: Confirmed; now: number }) {
  const { before, after, isChanged, events, isLate } = confirmed;
  if (isLate)
    return (
      <p role="status" className="border-l-2 border-damson pl-3">
        No answer in time. The question stays before all others; the last verdict is{' '}
        <strong>{before.at === null ? 'none' : words(before.phase)}</strong>, {ago(before.at, now)}.
      </p>
    );
  return (
    <div
      role={isChanged ? 'alert' : 'status'}
      className={isChanged ? 'bg-quince px-3 py-2' : 'border-l-2 border-rule pl-3'}
    >
      <p>
        {isChanged ? (
          <>
            <strong>It has changed: {words(after.phase)}</strong>, it was {words(before.phase)} {ago(before.at, now)}.
          </>
        ) : (
          <>
            <strong>{words(after.phase)}</strong>, asked just now
            {before.at === null ? '' : `; the look before, ${ago(before.at, now)}, found the same`}.
          </>
        )}{' '}
        {after.reason} <span className="small">{after.source}</span>
      </p>
      {after.contradictions
        .filter((sentence) => sentence !== after.reason)
        .map((sentence) => (
          <p key={sentence}>{sentence}</p>
        ))}
      {events.map((event) => (
        <p key={event.id}>{event.words}</p>
      ))}
    </div>
  );
}
