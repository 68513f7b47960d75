'use client';

import { useQuery } from '@tanstack/react-query';
import { count, score } from '../../core/wording/format';
import { statusName } from '../../core/wording/status';
import { call } from '../api';
import Link from '../link';

/** Names of the pool that are like this one; looked for once the page is there. */
export function SimilarNames({ name }: { name: string }) {
  const { data: names, error } = useQuery({
    queryKey: ['similar', name],
    queryFn: async ({ signal }) => (await call('GET /domains/{name}/similar', { params: { name }, signal })).names,
  });
  if (error) return <p className="small">{error.message}</p>;
  if (names === undefined) return <p className="small">looking…</p>;
  if (names.length === 0) return <p className="small">None in the pool is like it.</p>;
  return (
    <table className="w-full table-fixed" aria-label="Similar names in the pool">
      <thead className="small text-left">
        <tr>
          <th scope="col" className="font-normal">
            Name, and why
          </th>
          <th scope="col" className="w-28 font-normal">
            Phase
          </th>
          <th scope="col" className="w-32 text-right font-normal">
            Referring · strength
          </th>
        </tr>
      </thead>
      <tbody>
        {names.map((one) => (
          <tr key={one.name} className="border-t border-faint">
            <td className="truncate py-0.5 pr-2">
              <Link href={`/domains/${one.name}`} className="hover:underline">
                {one.name}
              </Link>
              <span className="small ml-1.5">{one.why}</span>
            </td>
            <td className="small">{statusName(one.phase)}</td>
            <td className="text-right">
              {one.referringDomains === null ? '' : count(one.referringDomains)}
              {' · '}
              {score(one.strength) || '?'}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
