'use client';

import NextLink from 'next/link';
import { type ComponentProps, type ReactNode, useState } from 'react';

/**
 * A link within the product. What it leads to is made ready once a hand or the focus is on it: made ready for each link in sight, a
 * screen of names had the server draw fifty beside it.
 */
export default function Link({ onPointerEnter, onFocus, ...rest }: ComponentProps<typeof NextLink>) {
  const [isMeant, setMeant] = useState(false);
  return (
    <NextLink
      prefetch={isMeant ? null : false}
      onPointerEnter={(event) => {
        setMeant(true);
        onPointerEnter?.(event);
      }}
      onFocus={(event) => {
        setMeant(true);
        onFocus?.(event);
      }}
      {...rest}
    />
  );
}

/** Leads to what is known of a domain. */
export function DomainLink({ name, children = name }: { name: string; children?: ReactNode }) {
  return (
    <Link href={`/domains/${name}`} className="font-semibold hover:underline">
      {children}
    </Link>
  );
}
