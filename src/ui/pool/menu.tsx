'use client';

import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

/** A button that opens a list of acts. */
export function Menu({
  label,
  children,
  open,
  onOpen,
}: {
  label: string;
  children: ReactNode;
  open?: boolean;
  onOpen?(open: boolean): void;
}) {
  return (
    <DropdownMenu.Root open={open} onOpenChange={onOpen}>
      <DropdownMenu.Trigger className="quiet">{label}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-h-[var(--radix-dropdown-menu-content-available-height)] overflow-auto rounded border border-rule bg-sheet py-1 shadow-lg"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
