import type { UnreadCause } from '../../../core/crawl/unread';
import { fixed } from '../../../core/formats/figures';
import { count, plural } from '../../../core/wording/format';
import type { CrawlView } from '../../../services/crawl/crawl-view';
import { YieldChartSlot } from '../../../ui/crawl/chart-slot';
import { BudgetForm, DropSite } from '../../../ui/crawl/crawl-controls';
import { FindSwitchList } from '../../../ui/crawl/find-switches';
import { suggestDeeper } from '../../../ui/crawl/suggest';
import Link from '../../../ui/link';
import { NUMBER, PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';

const TRAP_WORDS: Record<string, string> = {
  calendar: 'calendar',
  deeper: 'paths that grow',
  facets: 'combining filters',
  copies: 'copies',
  'not-found': '"not found" with 200',
};
const KIND_WORDS: Record<string, string> = {
  content: 'content',
  list: 'lists of links',
  thin: 'next to nothing',
  challenge: 'a challenge',
  consent: 'a consent wall',
  parked: 'parked',
  'not-found': '"not found", answered with 200',
  copy: 'a copy of another page',
};
const STATE_WORDS: Record<string, string> = {
  reading: '',
  dropped: 'dropped',
  blocking: 'blocks',
  unreachable: 'unreachable',
};

const ofSite = plainColumnsFor<CrawlView['sites'][number]>();

/** A crawl while it runs and afterwards: how it goes, the way from page to find, its sites, what it kept away from. */
export function CrawlReport({ sourceId, crawl }: { sourceId: number; crawl: CrawlView }) {
  const { funnel, sites, traps, kinds, troubles, samples, budgets, job, unread, seeds } = crawl;
  const isOpen = job !== null && ['running', 'queued', 'paused'].includes(job.state);
  const deeper = suggestDeeper(sites);
  return (
    <>
      <UnreadSeeds unread={unread} seeds={seeds} />
      <div className="mt-5 grid grid-cols-1 lg:grid-cols-[1fr_400px] gap-10">
        <section aria-labelledby="pace">
          <h2 id="pace" className="mb-1">
            How it goes
          </h2>
          <YieldChartSlot samples={samples} />
        </section>
        <div className="flex flex-col gap-6">
          <Funnel sourceId={sourceId} funnel={funnel} />
          <FindSwitchList sourceId={sourceId} switches={funnel.switches} out={funnel.leftOut} />
        </div>
      </div>
      <div className="mt-6 grid grid-cols-1 lg:grid-cols-[1fr_400px] gap-10">
        <section aria-labelledby="sites">
          <h2 id="sites">What each site gave</h2>
          <PlainTable
            label="What each site gave"
            rows={sites}
            rowId={({ site }) => site}
            rowProps={({ site }) => ({ 'data-site': site })}
            columns={[
              ofSite('Site', ({ site }) => site, { isHead: true, className: 'max-w-56 truncate font-semibold' }),
              ofSite(
                'State',
                ({ state, note, challenges, pages }) => (
                  <span title={note ?? undefined}>
                    {STATE_WORDS[state]}
                    {state === 'reading' && challenges > 0 && challenges >= pages ? 'shows a door' : ''}
                  </span>
                ),
                { isUntitled: true, className: 'max-w-40 truncate text-muted' },
              ),
              ofSite('Pages', ({ pages }) => count(pages), NUMBER),
              ofSite('Failed', ({ failed }) => count(failed), NUMBER),
              ofSite('Waiting', ({ queued }) => count(queued), NUMBER),
              ofSite('Too deep', ({ beyond }) => count(beyond), NUMBER),
              ofSite('Domains', ({ domains }) => count(domains), NUMBER),
              ofSite('Lapsed', ({ lapsed }) => <strong>{count(lapsed)}</strong>, NUMBER),
              ...(isOpen
                ? [
                    ofSite(
                      'What can be done',
                      ({ state, queued, site }) =>
                        state === 'reading' && queued > 0 && <DropSite sourceId={sourceId} site={site} />,
                      { isUntitled: true, isNumber: true, className: 'w-12' },
                    ),
                  ]
                : []),
            ]}
          />
          <p className="small mt-1">A domain counts for the site where it was found first.</p>
          <div className="mt-6 grid grid-cols-1 lg:grid-cols-2 gap-8">
            {kinds.length > 0 && (
              <section aria-labelledby="kinds">
                <h2 id="kinds">What the pages were</h2>
                {kinds.map(({ kind, pages, example, note }) => (
                  <div
                    key={kind}
                    className="flex justify-between gap-3 border-t border-rule py-1"
                    title={`${note ?? ''} ${example}`.trim()}
                  >
                    <span>{KIND_WORDS[kind] ?? kind}</span>
                    <span>{count(pages)}</span>
                  </div>
                ))}
              </section>
            )}
            {troubles.length > 0 && (
              <section aria-labelledby="troubles">
                <h2 id="troubles">Pages not read</h2>
                {troubles.slice(0, 12).map(({ note, pages, example, state }) => (
                  <div key={`${state}${note}`} className="border-t border-rule py-1">
                    <div className="flex justify-between gap-4">
                      <span className="truncate">{note}</span>
                      <span>{count(pages)}</span>
                    </div>
                    <span className="small block truncate">{example}</span>
                  </div>
                ))}
              </section>
            )}
          </div>
        </section>
        <div className="flex flex-col gap-6">
          <section aria-labelledby="budgets">
            <h2 id="budgets" className="mb-2">
              Budgets
            </h2>
            <BudgetForm sourceId={sourceId} budgets={budgets} isOpen={isOpen} />
          </section>
          {!isOpen && deeper.length > 0 && (
            <section aria-labelledby="deeper">
              <h2 id="deeper">Worth reading deeper</h2>
              {deeper.map(({ site, per100, left }) => (
                <div key={site} className="flex justify-between border-t border-rule py-1">
                  <span className="truncate">{site}</span>
                  <span className="small">
                    {fixed(per100, 0)} lapsed per 100 pages, {count(left)} known pages left
                  </span>
                </div>
              ))}
            </section>
          )}
          {traps.length > 0 && (
            <section aria-labelledby="traps">
              <h2 id="traps">Traps it kept out of</h2>
              {traps.map((trap) => (
                <div key={`${trap.site}${trap.kind}`} className="border-t border-rule py-1">
                  <div className="flex justify-between gap-3">
                    <span className="truncate">
                      {trap.site}: {TRAP_WORDS[trap.kind] ?? trap.kind}
                    </span>
                    <span>{count(trap.addresses)}</span>
                  </div>
                  <span className="small block truncate" title={trap.example}>
                    {trap.reason}, as {trap.example.replace(/^https?:\/\/[^/]+/, '')}
                  </span>
                </div>
              ))}
            </section>
          )}
        </div>
      </div>
    </>
  );
}

/** What can be done about a seed that was not read. */
const REMEDIES: Record<UnreadCause, string> = {
  robots: 'It asks not to be read. For a site of your own, say so among the options of a new crawl.',
  type: 'It is no page. Name a page of the site.',
  status: 'Look at it in a browser; name another page of the site, or read on later.',
  'name-not-found': 'There is no such name. Look whether it is written right; it may have lapsed itself.',
  'name-unsure': 'No server of DNS answers for it. Look at the resolvers in Settings, or read on later.',
  'private-address': 'Allow its address under "Private addresses" in Settings, then read on.',
  'wrong-port': 'Its port is one that mail, files or other services have. Name another page of the site.',
  refused: 'Its server takes no connections. Read on later.',
  timeout: 'Its server is silent. Read on later.',
  'too-large': 'The page is larger than is read. Name another page of the site.',
  'headers-too-large': 'Its server sends more than a page. Name another page of the site.',
  'bad-encoding': 'What it sends is damaged. Read on later.',
  'bad-answer': 'It leads nowhere. Name another page of the site.',
  connection: 'The connection breaks. Read on later.',
};
const MOST_UNREAD = 12;

/** Seeds that were not read, each with why and what can be done. */
function UnreadSeeds({ unread, seeds }: { unread: CrawlView['unread']; seeds: number }) {
  if (unread.length === 0) return null;
  return (
    <section aria-labelledby="unread" className="mt-4 border-l-2 border-damson pl-3">
      <h2 id="unread">
        {count(unread.length)} of {plural(seeds, 'seed')} {unread.length === 1 ? 'was' : 'were'} not read
      </h2>
      <ul>
        {unread.slice(0, MOST_UNREAD).map(({ url, cause, note }) => (
          <li key={url} className="border-t border-rule py-1 wrap-anywhere" data-unread={cause ?? ''}>
            <strong>{url.replace(/^https?:\/\/|\/$/g, '')}</strong>: {note.replace(/\.$/, '')}.{' '}
            <span className="small">{cause && REMEDIES[cause]}</span>
          </li>
        ))}
      </ul>
      {unread.length > MOST_UNREAD && (
        <p className="small">and {count(unread.length - MOST_UNREAD)} more, under the sites below</p>
      )}
    </section>
  );
}

/** Stages from a page to a measured find; a bar narrows from one to the next, and what left the way stands beside it. */
function Funnel({ sourceId, funnel }: { sourceId: number; funnel: CrawlView['funnel'] }) {
  const pool = (query: string) => `/pool?c=source%3A${sourceId}${query}`;
  const stages: { label: string; value: number; href?: string; note?: string }[] = [
    {
      label: 'domains found',
      value: funnel.named,
      note: `by ${count(funnel.linksOut)} links on ${count(funnel.pagesRead)} pages`,
    },
    {
      label: 'found, in the pool',
      value: funnel.inPool,
      href: pool(''),
      note: `${count(funnel.knownBefore)} were known before`,
    },
    {
      label: 'asked of DNS',
      value: funnel.askedDns,
      note: funnel.waiting > 0 ? `${count(funnel.waiting)} wait` : undefined,
    },
    { label: 'asked of a registry', value: funnel.askedRegistry, note: `${count(funnel.delegated)} resolve` },
    {
      label: 'lapsed or about to',
      value: funnel.lapsed,
      href: pool('&c=phase%3Afree%2Cpending-delete%2Credemption'),
      note: funnel.lapsedByList > 0 ? `${count(funnel.lapsedByList)} by what a list says, not asked yet` : undefined,
    },
    { label: 'measured', value: funnel.measured },
  ];
  const most = Math.max(1, funnel.named);
  return (
    <section aria-labelledby="funnel">
      <h2 id="funnel" className="mb-1">
        From page to find
      </h2>
      {stages.map(({ label, value, href, note }) => (
        <div key={label} className="border-t border-rule py-1">
          <div className="flex items-baseline gap-2">
            {href ? (
              <Link href={href} className="set">
                {label}
              </Link>
            ) : (
              <span>{label}</span>
            )}
            {note && <span className="small truncate">{note}</span>}
            <span className="ml-auto font-semibold">{count(value)}</span>
          </div>
          <div className="mt-0.5 h-[3px] bg-faint">
            <div
              className="mesh-fill h-[3px] bg-damson"
              style={{ width: `${Math.min(1, value / most) ** 0.5 * 100}%` }}
            />
          </div>
        </div>
      ))}
      {funnel.setAside.length > 0 && (
        <p className="small mt-2">
          Set aside: {funnel.setAside.map(({ reason, domains }) => `${count(domains)} because ${reason}`).join('; ')}.
        </p>
      )}
    </section>
  );
}
