'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { call } from '../api';
import { ActionForm, Labelled } from '../fields';
import { count, plural } from '../format';
import { wordFor } from '../pool/sentences';

interface CheckedLink {
  url: string;
  anchor: string;
  nofollow: boolean;
  before: string;
  after: string;
  domain: string | null;
  state: 'working' | 'redirected' | 'dead' | 'refused' | 'unsure';
  gone: 'page' | 'domain' | null;
  status: number | null;
  detail: string;
  phase: string | null;
  known: { toPage: number; toDomain: number } | null;
}

interface PageCheckView {
  url: string;
  title: string;
  contact: string | null;
  readers: number | null;
  links: CheckedLink[];
  inside: number;
  elapsedMs: number;
}

const GROUPS: { id: string; title: string; holds(link: CheckedLink): boolean }[] = [
  {
    id: 'domain',
    title: 'The whole domain is gone',
    holds: ({ state, gone }) => state === 'dead' && gone === 'domain',
  },
  {
    id: 'page',
    title: 'The page is gone, the domain lives',
    holds: ({ state, gone }) => state === 'dead' && gone === 'page',
  },
  { id: 'redirected', title: 'Leads elsewhere', holds: ({ state }) => state === 'redirected' },
  { id: 'refused', title: 'Would not answer us', holds: ({ state }) => state === 'refused' || state === 'unsure' },
  { id: 'working', title: 'Works', holds: ({ state }) => state === 'working' },
];

/** One page, now: which of its links still work. */
export function PageCheckScreen({ url, origin }: { url: string; origin: string }) {
  const router = useRouter();
  const [check, setCheck] = useState<PageCheckView | null>(null);
  const button = useRef<HTMLDivElement>(null);
  const bookmarklet = `javascript:location.href='${origin}/page?url='+encodeURIComponent(location.href)`;
  // an address handed over by the bookmarklet waits for one key
  useEffect(() => {
    if (url) button.current?.querySelector<HTMLButtonElement>('button[type=submit]')?.focus();
  }, [url]);
  return (
    <>
      <div ref={button}>
        <ActionForm
          label="Look at its links"
          busyLabel="Asking every link"
          act={async (form) => {
            const given = String(form.get('url'));
            setCheck(await call<PageCheckView>('/pages/check', { body: { url: given } }));
            router.replace(`/page?url=${encodeURIComponent(given)}`, { scroll: false });
          }}
        >
          <Labelled label="Address of a page">
            <input
              name="url"
              required
              className="field w-full"
              defaultValue={url}
              placeholder="merrowvalebeekeepers.org/links/4.html"
            />
          </Labelled>
        </ActionForm>
      </div>
      {check ? (
        <Findings check={check} />
      ) : (
        <div className="mt-6 border-t border-rule pt-3">
          <p className="max-w-prose">
            Within seconds: which of the page's outside links work, lead elsewhere, or are dead, and of the dead,
            whether the page is gone or the whole domain. Dead domains go to the pool; dead pages on living domains to
            the{' '}
            <Link href="/targets" className="set">
              dead targets
            </Link>
            .
          </p>
          <p className="mt-4 max-w-prose">
            To hand over the page you are reading: make a bookmark in your browser with this as its address, and choose
            it on any page.
          </p>
          <div className="mt-2 flex gap-2">
            <input
              readOnly
              aria-label="Bookmarklet"
              className="field w-full"
              value={bookmarklet}
              onFocus={(event) => event.currentTarget.select()}
            />
            <button
              type="button"
              className="quiet"
              onClick={async () => {
                await navigator.clipboard.writeText(bookmarklet);
                toast('Copied');
              }}
            >
              Copy
            </button>
          </div>
        </div>
      )}
    </>
  );
}

function Findings({ check }: { check: PageCheckView }) {
  const groups = GROUPS.map((group) => ({ ...group, links: check.links.filter(group.holds) })).filter(
    ({ links }) => links.length > 0,
  );
  return (
    <div className="mt-5">
      <h2 className="font-serif text-title">{check.title || check.url}</h2>
      <p className="small mb-4">
        {plural(check.links.length, 'outside link')}, asked in {(check.elapsedMs / 1000).toFixed(1)} s;{' '}
        {plural(check.inside, 'link')} inside {check.inside === 1 ? 'was' : 'were'} not asked.
        {check.readers === null ? '' : ` The page claims ${count(check.readers)} readers.`}
        {check.contact ? ` Whoever runs it: ${check.contact.replace(/^mailto:/, '')}` : ''}
      </p>
      {check.links.length === 0 && <p>The page links to nothing outside its own site.</p>}
      {groups.map(({ id, title, links }) => (
        <section key={id} aria-labelledby={`group-${id}`} className="mb-5">
          <h3 id={`group-${id}`} className="font-semibold">
            {title} <span className="font-normal text-muted">{count(links.length)}</span>
          </h3>
          {links.map((link) => (
            <div
              key={link.url}
              className="grid grid-cols-[minmax(0,5fr)_minmax(0,3fr)_minmax(0,3fr)] gap-4 border-t border-rule py-1.5"
              data-link={link.url}
              data-state={link.state}
            >
              <div className="min-w-0">
                <span className="block truncate">{link.url.replace(/^https?:\/\//, '')}</span>
                <span className="small block truncate">
                  {link.before} <b className="text-ink">{link.anchor || 'no words'}</b> {link.after}
                  {link.nofollow ? ' (nofollow)' : ''}
                </span>
              </div>
              <div className="min-w-0">
                <span className="block truncate" title={link.detail}>
                  {link.detail}
                </span>
                {link.state === 'dead' && link.domain && (
                  <span className="small block truncate">
                    <Link href={`/domains/${link.domain}`} className="set">
                      {link.domain}
                    </Link>
                    {link.phase
                      ? `: ${wordFor(link.phase)}`
                      : link.gone === 'domain'
                        ? ': its registry is being asked'
                        : ''}
                  </span>
                )}
              </div>
              {link.known && (
                <div className="small">
                  {plural(link.known.toPage, 'known page links', 'known pages link')} to this address
                  <br />
                  {plural(link.known.toDomain, 'known page')} to the domain
                </div>
              )}
            </div>
          ))}
        </section>
      ))}
    </div>
  );
}
