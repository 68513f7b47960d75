'use client';

import { Tooltip } from 'radix-ui';
import { type ReactElement, type ReactNode, useState } from 'react';
import { type Explanation, explain } from '../../core/pool/explain';
import type { FactName } from '../../core/pool/facts';

const WAIT_MS = 350;

/**
 * What something is, in two lines, beside what names it: under the pointer, with the focus, and by a tap.
 *
 * @param children the one thing that can have the focus.
 */
export function Explained({
  words,
  hint,
  children,
}: {
  words: Explanation;
  /** What can be done with it. */
  hint?: string;
  children: ReactElement;
}) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Tooltip.Provider delayDuration={WAIT_MS}>
      <Tooltip.Root open={isOpen} onOpenChange={setOpen}>
        <Tooltip.Trigger
          asChild
          onPointerDown={(event) => event.pointerType !== 'mouse' && event.preventDefault()}
          onClick={(event) => {
            // a tap has neither pointer nor, on every device, the focus
            if (!('pointerType' in event.nativeEvent) || event.nativeEvent.pointerType === 'mouse') return;
            event.preventDefault();
            setOpen(true);
          }}
        >
          {children}
        </Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            side="bottom"
            align="start"
            sideOffset={4}
            collisionPadding={8}
            className="z-50 max-w-72 rounded border border-rule bg-sheet px-3 py-2 text-left text-small leading-snug font-normal text-ink shadow-lg"
          >
            <span className="block">{words.what}</span>
            <span className="block text-muted">{words.from}</span>
            {hint && <span className="mt-1 block text-muted">{hint}</span>}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}

/** The name of a measure, explained. */
export function Measure({ fact, children }: { fact: FactName; children: ReactNode }) {
  return (
    <Explained words={explain(fact)}>
      <button
        type="button"
        className="inline cursor-help text-left decoration-dotted underline-offset-2 hover:underline"
      >
        {children}
      </button>
    </Explained>
  );
}
