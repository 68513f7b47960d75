'use client';

import { Popover } from 'radix-ui';
import { type ReactElement, type ReactNode, useEffect, useId, useRef, useState } from 'react';
import { type Explanation, explain } from '../../core/pool/explain';
import type { FactName } from '../../core/pool/facts';

const WAIT_MS = 350;
const stay = (event: Event) => event.preventDefault();

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
  const id = useId();
  const soon = useRef<ReturnType<typeof setTimeout>>(undefined);
  const turn = (next: boolean) => {
    clearTimeout(soon.current);
    setOpen(next);
  };
  useEffect(() => () => clearTimeout(soon.current), []);
  return (
    <Popover.Root open={isOpen} onOpenChange={turn}>
      <Popover.Anchor
        asChild
        aria-describedby={isOpen ? id : undefined}
        onPointerEnter={({ pointerType }) => {
          if (pointerType === 'mouse') soon.current = setTimeout(() => setOpen(true), WAIT_MS);
        }}
        onPointerLeave={() => turn(false)}
        onFocus={({ target }) => target.matches(':focus-visible') && turn(true)}
        onBlur={() => turn(false)}
        onClick={({ nativeEvent }) => turn('pointerType' in nativeEvent && nativeEvent.pointerType === 'touch')}
      >
        {children}
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          id={id}
          role="tooltip"
          side="bottom"
          align="start"
          sideOffset={4}
          collisionPadding={8}
          onOpenAutoFocus={stay}
          onCloseAutoFocus={stay}
          className="pointer-events-none z-50 max-w-72 rounded border border-rule bg-sheet px-3 py-2 text-left text-small leading-snug font-normal text-ink shadow-lg"
        >
          <span className="block">{words.what}</span>
          <span className="block text-muted">{words.from}</span>
          {hint && <span className="mt-1 block text-muted">{hint}</span>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The name of a measure, explained. */
export const Measure = ({ fact, children }: { fact: FactName; children: ReactNode }) => (
  <ExplainedWord words={explain(fact)}>{children}</ExplainedWord>
);

/** A word that is explained. */
export function ExplainedWord({ words, children }: { words: Explanation; children: ReactNode }) {
  return (
    <Explained words={words}>
      <button
        type="button"
        className="inline cursor-help text-left decoration-dotted underline-offset-2 hover:underline"
      >
        {children}
      </button>
    </Explained>
  );
}
