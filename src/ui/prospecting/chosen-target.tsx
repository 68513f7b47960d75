'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { bare, plural, score } from '../../core/wording/format';
import { call } from '../api';
import { OneLine } from '../forms/one-line';
import Link from '../link';
import { useRedraw } from '../server-state';
import type { ChosenTarget } from './types';

/** A dead target: which own page could stand in, and the pages that link to it. */
export function ChosenTargetView({ target }: { target: ChosenTarget }) {
  const redraw = useRedraw();
  const { url, domain, links, candidates, standIn, hasOwnPages } = target;
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const rest = links.filter(({ isListed }) => !isListed);
  const act = async (work: () => Promise<string | null>) => {
    try {
      const words = await work();
      if (words) toast(words);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const choose = (own: string | null) =>
    act(async () => {
      await call('PATCH /prospects', { body: { target: url, standIn: own } });
      return own === null ? 'No page stands in' : `${bare(own)} stands in`;
    });
  const put = (pages: string[]) =>
    act(async () => {
      const { added } = await call('POST /prospects', { body: { target: url, domain, pages } });
      setPicked(new Set());
      return `${plural(added.length, 'page')} put on the outreach list`;
    });
  const chosen = rest.filter(({ page }) => picked.size === 0 || picked.has(page)).map(({ page }) => page);
  return (
    <section aria-labelledby="linking" className="mb-8 border-t-2 border-ink pt-3">
      <h2 id="linking" className="wrap-anywhere">
        Pages that link to {bare(url)}
      </h2>
      <div className="mt-2 grid grid-cols-1 lg:grid-cols-[minmax(0,2fr)_minmax(0,1fr)] gap-x-10">
        <div>
          {links.length === 0 && <p>No page is known to link to it.</p>}
          {links.map(({ page, title, anchor, nofollow, contact, contactPage, strength, isListed }) => (
            <div key={page} className="flex items-baseline gap-3 border-t border-rule py-1.5">
              {isListed ? (
                <span className="small w-14 whitespace-nowrap">on it</span>
              ) : (
                <span className="w-14">
                  <input
                    type="checkbox"
                    aria-label={`Choose ${bare(page)}`}
                    checked={picked.has(page)}
                    onChange={(event) => {
                      const next = new Set(picked);
                      if (event.target.checked) next.add(page);
                      else next.delete(page);
                      setPicked(next);
                    }}
                  />
                </span>
              )}
              <span className="min-w-0 grow">
                <Link href={`/page?url=${encodeURIComponent(page)}`} className="wrap-anywhere hover:underline">
                  {bare(page)}
                </Link>{' '}
                <span className="small">
                  {title && `“${title}”, `}as “{anchor}”{nofollow ? ', nofollow' : ''}
                </span>
              </span>
              <span className="small whitespace-nowrap">
                {strength === null ? 'not measured' : `strength ${score(strength)}`}
              </span>
              <span className="small w-56 truncate text-right" title={contact ?? contactPage ?? undefined}>
                {contact?.replace(/^mailto:/, '') ?? (contactPage ? `see ${bare(contactPage)}` : 'no contact known')}
              </span>
            </div>
          ))}
          {rest.length > 0 && (
            <button type="button" className="quiet mt-3" onClick={() => void put(chosen)}>
              Put {picked.size === 0 ? (rest.length === 1 ? 'it' : `all ${rest.length}`) : plural(picked.size, 'page')}{' '}
              on the outreach list
            </button>
          )}
        </div>
        <div>
          <h3 className="font-semibold">What could stand in</h3>
          {standIn && (
            <p className="mt-1 flex items-baseline gap-3">
              <strong className="wrap-anywhere">{bare(standIn)}</strong>
              <button type="button" className="set" onClick={() => void choose(null)}>
                not this one
              </button>
            </p>
          )}
          {candidates
            .filter((candidate) => candidate.url !== standIn)
            .map((candidate) => (
              <div key={candidate.url} className="border-t border-faint py-1">
                <button type="button" className="text-left" onClick={() => void choose(candidate.url)}>
                  <span className="set wrap-anywhere">{bare(candidate.url)}</span>
                  <span className="small block">
                    {Math.round(100 * candidate.confidence)}% alike:{' '}
                    {candidate.reasons.map(({ word, where }) => `${word} (${where})`).join(', ') || 'the same path'}
                  </span>
                </button>
              </div>
            ))}
          {candidates.length === 0 && !standIn && (
            <p className="small mt-1">
              {hasOwnPages
                ? 'No page of yours is like it.'
                : 'No pages of yours are known. Bring them in under “where its addresses move” of any domain, or write one here.'}
            </p>
          )}
          <OneLine
            label="Another page of yours"
            button="This one"
            placeholder="https://…"
            outer="mt-2 flex gap-2"
            act={choose}
          />
        </div>
      </div>
    </section>
  );
}
