'use client';

import { useEffect, useState } from 'react';
import type { StoredSieve } from '../../contracts/sieves';
import { useOpened } from './use-opened';

/** The kept sieve that a view is, or was opened from: one that was opened stays itself while it is changed. */
export function useKeptSieve(sieves: readonly StoredSieve[], address: string, hasParts: boolean) {
  const same = sieves.find((sieve) => sameSieve(sieve.view, address));
  const [openedId, setOpened] = useState<number | null>(null);
  useEffect(() => {
    if (same) setOpened(same.id);
  }, [same]);
  useOpened(address, openedId, setOpened);
  const kept = same ?? (hasParts ? sieves.find(({ id }) => id === openedId) : null) ?? null;
  return { kept, isChanged: kept !== null && same === undefined, setOpened };
}

/** The same conditions and order; columns that differ make it no other sieve. */
function sameSieve(kept: string, address: string): boolean {
  const bare = (text: string) => {
    const parameters = new URLSearchParams(text);
    parameters.delete('columns');
    return parameters.toString();
  };
  return bare(kept) === bare(address);
}
