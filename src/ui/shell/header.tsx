'use client';

import { usePathname, useRouter } from 'next/navigation';
import { DropdownMenu } from 'radix-ui';
import { count } from '../../core/wording/format';
import { jobTitle } from '../jobs';
import Link from '../link';
import { useRedraw } from '../server-state';
import { useLive } from './live';

export const PLACES = [
  { href: '/', label: 'Today', key: 't' },
  { href: '/sources', label: 'Sources', key: 'o' },
  { href: '/pool', label: 'Pool', key: 'p' },
  { href: '/check', label: 'Availability', key: 'h' },
  { href: '/measures', label: 'Metrics', key: 'm' },
  { href: '/ideas', label: 'Ideas', key: 'i' },
  { href: '/shortlist', label: 'Shortlist', key: 'l' },
  { href: '/orders', label: 'Bids and orders', key: 'r' },
  { href: '/deadlines', label: 'Deadlines', key: 'd' },
  { href: '/holdings', label: 'Portfolio', key: 'n' },
  { href: '/briefs', label: 'Briefs', key: 'b' },
  { href: '/settings', label: 'Settings', key: 'e' },
] as const;

export function Header({
  briefs,
  briefId,
  onPalette,
}: {
  briefs: { id: number; name: string }[];
  briefId: number;
  onPalette(): void;
}) {
  const path = usePathname();
  const router = useRouter();
  const redraw = useRedraw();
  const { jobs } = useLive();
  const running = [...jobs.values()].filter((job) => job.state === 'running');
  const current = briefs.find((brief) => brief.id === briefId);
  const choose = (id: number) => {
    // biome-ignore lint/suspicious/noDocumentCookie: the cookie is how the server knows the brief of the next page
    document.cookie = `brief=${id}; path=/; max-age=31536000; samesite=strict`;
    redraw();
  };
  return (
    <header className="print:hidden flex shrink-0 flex-wrap items-center gap-x-5 border-b border-rule px-4 lg:h-11 lg:flex-nowrap">
      <Link href="/" className="py-1.5 font-serif text-[19px] font-semibold tracking-tight text-damson">
        Jam Ladle
      </Link>
      <nav
        aria-label="Main"
        className="order-last flex h-9 w-full gap-4 overflow-x-auto whitespace-nowrap lg:order-none lg:h-full lg:w-auto lg:overflow-visible"
      >
        {PLACES.map(({ href, label }) => {
          const isHere = href === '/' ? path === '/' : path.startsWith(href);
          return (
            <Link
              key={href}
              href={href}
              aria-current={isHere ? 'page' : undefined}
              className={`flex items-center border-b-2 ${isHere ? 'border-damson font-semibold' : 'border-transparent text-muted hover:text-ink'}`}
            >
              {label}
            </Link>
          );
        })}
      </nav>
      <div className="ml-auto flex min-w-0 items-center gap-3">
        <span role="status" className="min-w-0 truncate text-muted">
          {running.length > 0 && (
            <Link href={running[0].sourceId ? `/sources/${running[0].sourceId}` : '/'}>
              {jobTitle(running[0])}
              {running[0].progress ? `, ${count(running[0].progress.done)} ${running[0].progress.unit}` : ''}
              {running.length > 1 ? ` and ${running.length - 1} more` : ''}
            </Link>
          )}
        </span>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="quiet max-w-56 truncate" aria-label={`Brief: ${current?.name}`}>
            {current?.name} <span aria-hidden="true">▾</span>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="end"
              sideOffset={4}
              className="z-50 min-w-48 rounded border border-rule bg-sheet py-1 shadow-lg"
            >
              {briefs.map((brief) => (
                <DropdownMenu.Item
                  key={brief.id}
                  onSelect={() => choose(brief.id)}
                  className={`px-3 py-1 outline-none data-[highlighted]:bg-damson-soft ${brief.id === briefId ? 'font-semibold' : ''}`}
                >
                  {brief.name}
                </DropdownMenu.Item>
              ))}
              <DropdownMenu.Separator className="my-1 border-t border-rule" />
              <DropdownMenu.Item
                onSelect={() => router.push('/briefs')}
                className="px-3 py-1 outline-none data-[highlighted]:bg-damson-soft"
              >
                All briefs
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <button type="button" className="quiet small" onClick={onPalette}>
          Ctrl K
        </button>
      </div>
    </header>
  );
}
