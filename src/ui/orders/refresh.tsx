'use client';

import { useEffect, useRef } from 'react';
import { useRedraw } from '../server-state';
import { useLive } from '../shell/live';

/** Draws the page's server part anew when an order changes. */
export function RefreshOnOrders() {
  const redraw = useRedraw();
  const { ordersAt } = useLive();
  const heard = useRef(ordersAt);
  useEffect(() => {
    if (ordersAt !== heard.current) redraw();
    heard.current = ordersAt;
  }, [ordersAt, redraw]);
  return null;
}
