'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { pathOf } from '../../core/redirects/address';
import { bare, count, plural, score } from '../../core/wording/format';
import { call } from '../api';
import Link from '../link';
import { useRedraw } from '../server-state';

export interface MentionShown {
  page: string;
  target: string;
  title: string | null;
  anchor: string;
  contact: string | null;
  strength: number | null;
  readers: number | null;
  isListed: boolean;
}

const FIRST = 12;

/** Where else a domain is linked or mentioned: pages whose owners may be asked to link to the new address themselves. */
export function Mentions({
  name,
  mentions,
  rules,
}: {
  name: string;
  mentions: MentionShown[];
  rules: ReadonlyMap<string, string | null>;
}) {
  const router = useRouter();
  const redraw = useRedraw();
  const [isLong, setLong] = useState(false);
  const put = async ({ page, target }: MentionShown) => {
    const standIn = rules.get(pathOf(target) ?? '') ?? undefined;
    try {
      await call('POST /prospects', { body: { target, domain: name, pages: [page], standIn } });
      toast(`${bare(page)} is on the outreach list`, {
        action: { label: 'Go there', onClick: () => router.push('/targets') },
      });
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  if (mentions.length === 0) return null;
  const listed = mentions.filter(({ isListed }) => isListed).length;
  return (
    <section aria-labelledby="mentions" className="mt-8">
      <h2 id="mentions">Where else it is linked or mentioned</h2>
      <p className="small">
        A redirect carries a part; a link to the new page carries all of it. The most read first, as the pages claim,
        then those of the strongest domains.{' '}
        {listed > 0 && (
          <Link href="/targets" className="set">
            {plural(listed, 'page')} on the outreach list
          </Link>
        )}
      </p>
      <table className="mt-1 w-full table-fixed" aria-label="Pages that link or mention">
        <thead>
          <tr className="small text-left">
            <th className="py-1 font-normal">Page</th>
            <th className="w-2/12 font-normal">Leads to</th>
            <th className="w-20 text-right font-normal">Views</th>
            <th className="w-20 text-right font-normal">Strength</th>
            <th className="w-2/12 pl-4 font-normal">Contact</th>
            <th className="w-36" />
          </tr>
        </thead>
        <tbody>
          {mentions.slice(0, isLong ? undefined : FIRST).map((mention) => (
            <tr key={mention.page} className="border-t border-rule align-baseline" data-mention={mention.page}>
              <td className="truncate py-1 pr-3" title={mention.page}>
                {bare(mention.page)} <span className="small">{mention.title ?? `“${mention.anchor}”`}</span>
              </td>
              <td className="truncate pr-3">{pathOf(mention.target) ?? mention.target}</td>
              <td className="text-right">{mention.readers === null ? '–' : count(mention.readers)}</td>
              <td className="text-right">{mention.strength === null ? '–' : score(mention.strength)}</td>
              <td className="small truncate pl-4">{mention.contact?.replace(/^mailto:/, '') ?? 'not known'}</td>
              <td className="text-right">
                {mention.isListed ? (
                  <span className="small">on the outreach list</span>
                ) : (
                  <button
                    type="button"
                    className="set"
                    aria-label={`Write to ${bare(mention.page)}`}
                    onClick={() => void put(mention)}
                  >
                    to the outreach list
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {mentions.length > FIRST && !isLong && (
        <button type="button" className="set mt-2" onClick={() => setLong(true)}>
          {mentions.length - FIRST} more
        </button>
      )}
    </section>
  );
}
