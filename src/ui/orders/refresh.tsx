'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { useLive } from '../shell/live';

/** Draws the page's server part anew when an order changes. */
export function RefreshOnOrders() {
  const router = useRouter();
  const { ordersAt } = useLive();
  const heard = useRef(ordersAt);
  useEffect(() => {
    if (ordersAt !== heard.current) router.refresh();
    heard.current = ordersAt;
  }, [ordersAt, router]);
  return null;
}
