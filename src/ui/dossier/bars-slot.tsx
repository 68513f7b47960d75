'use client';

import dynamic from 'next/dynamic';

/** The chart is loaded where it is shown, so that no other screen carries it. */
export const BarsSlot = dynamic(() => import('./bars'), { ssr: false, loading: () => <div className="h-36" /> });
