import { useEffect } from 'react';
import { recall, remember } from '../recall';

interface Opened {
  address: string;
  id: number;
}

const KEY = 'opened sieve';
const isOpened = (value: unknown): value is Opened =>
  typeof value === 'object' && value !== null && 'address' in value && 'id' in value;

/** Remembers over a reload which kept sieve was opened and then changed. */
export function useOpened(address: string, id: number | null, open: (id: number) => void): void {
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the screen comes
  useEffect(() => {
    const before = recall(KEY, isOpened);
    if (before?.address === address) open(before.id);
  }, []);
  useEffect(() => {
    if (id !== null) remember(KEY, { address, id });
  }, [address, id]);
}
