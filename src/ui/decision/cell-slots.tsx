'use client';

import dynamic from 'next/dynamic';

/** Cells that ask for more than the row has; they come where a column of them is shown. */
export const FitCell = dynamic(() => import('./cells').then(({ FitCell: cell }) => cell), { ssr: false });
export const WorthCell = dynamic(() => import('./cells').then(({ WorthCell: cell }) => cell), { ssr: false });
