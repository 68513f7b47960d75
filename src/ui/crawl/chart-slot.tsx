'use client';

import dynamic from 'next/dynamic';

/** The chart is loaded where it is shown, so that no other screen carries it. */
export const YieldChartSlot = dynamic(() => import('./yield-chart'), {
  ssr: false,
  loading: () => <div className="h-44" />,
});
