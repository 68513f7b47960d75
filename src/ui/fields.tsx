'use client';

import { type ReactNode, useRef, useState } from 'react';

/** A field under its label. */
export function Labelled({ label, hint, children }: { label: string; hint?: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the field is given as the child
    <label className="block">
      <span className="font-semibold">{label}</span>
      {hint && <span className="small ml-2">{hint}</span>}
      <span className="mt-1 block">{children}</span>
    </label>
  );
}

/** A file, chosen or dropped. */
export function FileDrop({ label, hint, onFile }: { label: string; hint: string; onFile(file: File): void }) {
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the file field inside does the same by keyboard
    <div
      className="rounded border border-dashed border-muted px-4 py-5 text-center"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) onFile(file);
      }}
    >
      <label className="set cursor-pointer focus-within:outline-2 focus-within:outline-damson">
        {label}
        <input
          type="file"
          className="sr-only"
          onChange={(event) => event.target.files?.[0] && onFile(event.target.files[0])}
        />
      </label>{' '}
      or drop it here. <span className="small block">{hint}</span>
    </div>
  );
}

/** A problem, where it came up. */
export function Problem({ text }: { text: string | null }) {
  if (!text) return null;
  return (
    <p role="alert" className="bg-quince px-3 py-2 whitespace-pre-line">
      {text}
    </p>
  );
}

/** What is under way, on a line that is always there: nothing moves when it begins or ends. */
export function Status({ text }: { text: string | null }) {
  return (
    <p role="status" className="h-6 truncate leading-6">
      {text}
    </p>
  );
}

/** A label that gives way to another without changing its button's size. */
export function SteadyLabel({ label, busyLabel, isBusy }: { label: ReactNode; busyLabel: string; isBusy: boolean }) {
  return (
    <span className="grid">
      <span className={`col-start-1 row-start-1 ${isBusy ? 'invisible' : ''}`}>{label}</span>
      <span className={`col-start-1 row-start-1 ${isBusy ? '' : 'invisible'}`}>{busyLabel}</span>
    </span>
  );
}

/** Does things one after another, in the order in which they were asked for; says what is under way and what went wrong. */
export function useAttempt() {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState<string | null>(null);
  const last = useRef<Promise<void>>(Promise.resolve());
  const waiting = useRef<string[]>([]);
  /** `once`: nothing happens when the same is under way already, as when a button is pressed twice. */
  const attempt = (what: string, act: () => Promise<void>, { once = false } = {}): Promise<void> => {
    if (once && waiting.current.includes(what)) return Promise.resolve();
    waiting.current.push(what);
    const turn = last.current.then(async () => {
      setBusy(what);
      setProblem(null);
      try {
        await act();
      } catch (error) {
        setProblem((error as Error).message);
      } finally {
        waiting.current.shift();
        if (waiting.current.length === 0) setBusy(null);
      }
    });
    last.current = turn;
    return turn;
  };
  return { problem, busy, attempt };
}

/** Words of a field, parted by commas, semicolons or white space. */
export const wordsOf = (text: FormDataEntryValue | null) =>
  String(text ?? '')
    .split(/[\s,;]+/)
    .filter(Boolean);

/**
 * A form that does one thing with its fields, once at a time, and says what went wrong below its buttons: nothing moves or is switched off
 * under the pointer.
 */
export function ActionForm({
  label,
  busyLabel,
  isQuiet = false,
  className = '',
  act,
  other,
  children,
}: {
  label: string;
  busyLabel: string;
  /** A form beside the screen's main action. */
  isQuiet?: boolean;
  className?: string;
  act(form: FormData): Promise<void>;
  /** Another thing that can be done with the same fields. */
  other?: { label: string; act(form: FormData): Promise<void> };
  children: ReactNode;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const isUnderWay = useRef(false);
  return (
    <form
      className={`flex flex-col gap-4 ${className}`}
      onSubmit={async (event) => {
        event.preventDefault();
        if (isUnderWay.current) return;
        isUnderWay.current = true;
        const form = new FormData(event.currentTarget);
        const submitter = (event.nativeEvent as SubmitEvent).submitter as HTMLButtonElement | null;
        setBusy(true);
        setProblem(null);
        try {
          await (other && submitter?.value === 'other' ? other.act(form) : act(form));
        } catch (error) {
          setProblem((error as Error).message);
        } finally {
          isUnderWay.current = false;
          setBusy(false);
        }
      }}
    >
      {children}
      <div className="flex gap-2">
        <button type="submit" className={isQuiet ? 'quiet' : 'press'} aria-busy={busy}>
          <SteadyLabel label={label} busyLabel={busyLabel} isBusy={busy} />
        </button>
        {other && (
          <button type="submit" value="other" className="quiet">
            {other.label}
          </button>
        )}
      </div>
      <Problem text={problem} />
    </form>
  );
}
