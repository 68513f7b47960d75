'use client';

import { type ReactNode, useState } from 'react';
import Link from '../link';
import { Hears } from '../shell/hears';
import { pressed } from '../shell/key-list';
import { isTyping } from '../shell/shell';
import { TOUR_COOKIE } from './tour-cookie';

const YEARS_S = 10 * 31_536_000;

const STEPS: [title: string, words: ReactNode][] = [
  [
    'Say what you look for',
    <>
      Words, TLDs, trusted sites and a budget stand in the{' '}
      <Link className="set" href="/briefs">
        brief
      </Link>
      .
    </>,
  ],
  [
    'Bring names in',
    <>
      Crawls, lists, venues and backlink data are{' '}
      <Link className="set" href="/sources">
        sources
      </Link>
      .
    </>,
  ],
  [
    'Sift them',
    <>
      In the{' '}
      <Link className="set" href="/pool">
        pool
      </Link>{' '}
      press <kbd>a</kbd> and type: <em>org over 5 years, 20+ referring domains</em>.
    </>,
  ],
  [
    'Look closely',
    <>
      <kbd>v</kbd> shows the evidence beside the list, <kbd>Enter</kbd> opens all of it.
    </>,
  ],
  [
    'Shortlist',
    <>
      <kbd>s</kbd> keeps a name for the brief. <kbd>r</kbd> reviews what is left, one key a name.
    </>,
  ],
  [
    'Decide',
    <>
      The{' '}
      <Link className="set" href="/shortlist">
        shortlist
      </Link>{' '}
      says up to what, and when; <kbd>o</kbd> orders.
    </>,
  ],
];

/** The way to a first find, in six steps; it goes for good by one key. */
export function Tour() {
  const [isGone, setGone] = useState(false);
  const dismiss = () => {
    // biome-ignore lint/suspicious/noDocumentCookie: the cookie lets the server leave it out of the next page
    document.cookie = `${TOUR_COOKIE}=done; path=/; max-age=${YEARS_S}; samesite=strict`;
    setGone(true);
  };
  if (isGone) return null;
  return (
    <section aria-labelledby="tour" className="col-span-full mb-5 border-y border-rule py-2.5">
      <Hears
        onKey={(event) => {
          if (isTyping(event) || pressed('today', event) !== 'hideTour') return;
          event.preventDefault();
          dismiss();
        }}
      />
      <div className="flex items-baseline justify-between">
        <h2 id="tour">To a first find in six steps</h2>
        <button type="button" className="small hover:text-ink" onClick={dismiss}>
          hide this for good <kbd>h</kbd>
        </button>
      </div>
      <ol className="mt-1 grid grid-cols-2 gap-x-6 gap-y-2 md:grid-cols-3 lg:grid-cols-6">
        {STEPS.map(([title, words], n) => (
          <li key={title}>
            <span className="font-semibold">
              <span className="text-damson">{n + 1}</span> {title}
            </span>
            <span className="block">{words}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}
