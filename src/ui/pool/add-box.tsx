'use client';

import { Popover } from 'radix-ui';
import { lazy, Suspense, useState } from 'react';
import { MAX_DEPTH, type SievePart, type Sort } from '../../core/pool/conditions';
import { PLACEHOLDER } from './add-words';
import type { SetName } from './sentences';

// what is chosen from comes when it is opened
const Choices = lazy(() => import('./add-choices'));

interface BoxProps {
  open: boolean;
  onOpen(open: boolean): void;
  /** One or several at once, with an order where one was said. */
  onAdd(parts: SievePart[], sorts: Sort[]): void;
  withGroups: boolean;
  setName: SetName;
  className?: string;
  children: string;
}

export function GroupAdd({
  depth,
  onAdd,
  setName,
}: {
  depth: number;
  onAdd(parts: SievePart[]): void;
  setName: SetName;
}) {
  const [open, setOpen] = useState(false);
  return (
    <AddBox
      open={open}
      onOpen={setOpen}
      onAdd={onAdd}
      withGroups={depth + 1 < MAX_DEPTH}
      setName={setName}
      className="set text-small"
    >
      add to the group
    </AddBox>
  );
}

/** Conditions by typing: a fact by some of its letters, or a whole line that is read as conditions, each shown before it is taken. */
export function AddBox({ open, onOpen, className = 'quiet', children, ...rest }: BoxProps) {
  const [text, setText] = useState('');
  const turn = (isOpen: boolean) => {
    setText('');
    onOpen(isOpen);
  };
  return (
    <Popover.Root open={open} onOpenChange={turn}>
      <Popover.Trigger className={className}>{children}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          aria-label="Add conditions"
          className="z-50 flex max-h-[var(--radix-popover-content-available-height)] w-[440px] max-w-[calc(100vw-16px)] flex-col rounded border border-rule bg-sheet shadow-lg"
          // what was added asks for its values: the focus goes there, not back
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          <Suspense fallback={<Field text={text} onText={setText} />}>
            <Choices text={text} onText={setText} onClose={() => turn(false)} {...rest} />
          </Suspense>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** What is typed before the rest is there is kept. */
function Field({ text, onText }: { text: string; onText(text: string): void }) {
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: opened to be typed into
      autoFocus
      aria-label="Add conditions"
      className="field m-2"
      placeholder={PLACEHOLDER}
      value={text}
      onChange={(event) => onText(event.target.value)}
    />
  );
}
