'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import type { CheckedLink, PageCheckView } from '../../contracts/page-check';
import { count, plural } from '../../core/wording/format';
import { call } from '../api';
import { ExportMenu } from '../export-menu';
import { LineField } from '../forms/field';
import { Form } from '../forms/form';
import { text } from '../forms/typed';
import { JobLine } from '../jobs';
import Link from '../link';
import { wordFor } from '../pool/sentences';

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
  { id: 'unsure', title: 'Could not be told', holds: ({ state }) => state === 'unsure' },
  { id: 'redirected', title: 'Leads elsewhere', holds: ({ state }) => state === 'redirected' },
  { id: 'refused', title: 'Would not answer us', holds: ({ state }) => state === 'refused' },
  { id: 'working', title: 'Works', holds: ({ state }) => state === 'working' },
  { id: 'waiting', title: 'Not asked yet', holds: ({ state }) => state === 'waiting' },
];

const TypedPage = z.object({ url: text('Write the address of a page.') });

/** One page, now: which of its links still work. */
export function PageCheckScreen({ url, origin, view }: { url: string; origin: string; view: PageCheckView | null }) {
  const router = useRouter();
  const button = useRef<HTMLDivElement>(null);
  const bookmarklet = `javascript:location.href='${origin}/page?url='+encodeURIComponent(location.href)`;
  // an address handed over by the bookmarklet waits for one key
  useEffect(() => {
    if (url) button.current?.querySelector<HTMLButtonElement>('button[type=submit]')?.focus();
  }, [url]);
  return (
    <>
      <div ref={button}>
        <Form
          schema={TypedPage}
          values={{ url }}
          label="Look at its links"
          busyLabel="Asking every link"
          isFleeting
          act={async ({ url: given }) => {
            const { job } = await call('POST /pages/check', { body: { url: given } });
            router.push(`/page?url=${encodeURIComponent(given)}&check=${job.id}`, { scroll: false });
          }}
        >
          <LineField name="url" label="Address of a page" placeholder="a-club-you-trust.org/links.html" />
        </Form>
      </div>
      {view ? (
        <Findings view={view} />
      ) : (
        <div className="mt-6 border-t border-rule pt-3">
          <p className="max-w-prose">
            Within seconds: which of the page's outside links work, lead elsewhere, or are dead, and of the dead,
            whether the page is gone or the whole domain. What gives no answer is asked a second time before it is
            called dead. Dead domains go to the pool; dead pages on living domains to the{' '}
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

function Findings({ view: { job, head, links: all } }: { view: PageCheckView }) {
  const groups = GROUPS.map((group) => ({ ...group, links: all.filter(group.holds) })).filter(
    ({ links }) => links.length > 0,
  );
  return (
    <div className="mt-5">
      {job.state !== 'done' && <JobLine job={job} />}
      {head && (
        <>
          <div className="flex items-baseline justify-between gap-4">
            <h2 className="font-serif text-title">{head.title || head.url}</h2>
            {all.length > 0 && (
              <ExportMenu address={`/api/v1/export?what=page-links&id=${job.id}`} label="the links of the page" />
            )}
          </div>
          <p className="small mb-4">
            {plural(all.length, 'outside link')}; {plural(head.inside, 'link')} inside{' '}
            {head.inside === 1 ? 'is' : 'are'} not asked.
            {head.readers === null ? '' : ` The page claims ${count(head.readers)} readers.`}
            {head.contact ? ` Whoever runs it: ${head.contact.replace(/^mailto:/, '')}` : ''}
          </p>
          {all.length === 0 && <p>The page links to nothing outside its own site.</p>}
        </>
      )}
      {groups.map(({ id, title, links }) => (
        <section key={id} aria-labelledby={`group-${id}`} className="mb-5">
          <h3 id={`group-${id}`} className="font-semibold">
            {title} <span className="font-normal text-muted">{count(links.length)}</span>
          </h3>
          {links.map((link) => (
            <div
              key={link.url}
              className="grid grid-cols-1 lg:grid-cols-[minmax(0,5fr)_minmax(0,3fr)_minmax(0,3fr)] gap-4 border-t border-rule py-1.5"
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
