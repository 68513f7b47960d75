'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { type ReactNode, useRef, useState } from 'react';
import {
  type DefaultValues,
  type FieldValues,
  FormProvider,
  get,
  type Path,
  type UseFormReturn,
  useForm,
} from 'react-hook-form';
import type { z } from 'zod';
import { CallError } from '../api';
import { Problem, SteadyLabel } from '../fields';
import { useUnsaved } from './unsaved';

interface FormProps<In extends FieldValues, Out> {
  /** From what is typed to what is done: its input are the fields' values. */
  schema: z.ZodType<Out, In>;
  /** What stands in the fields. When it changes, so do the fields that nobody has typed into. */
  values: In;
  /** What is read aloud, where several forms are on a screen. */
  name?: string;
  label: string;
  busyLabel: string;
  /** A form beside the screen's main action. */
  isQuiet?: boolean;
  className?: string;
  act(sent: Out): Promise<unknown>;
  /** Another thing that can be done with the same fields. */
  other?: { label: string; act(sent: Out): Promise<unknown> };
  /** What stands beside its buttons. */
  beside?: ReactNode;
  /** What was taken goes from the fields: for one after another. */
  isEmptied?: boolean;
  /** Nothing can be sent yet: what is missing is said elsewhere. */
  isOff?: boolean;
  /** Where leaving loses nothing that was worth typing. */
  isFleeting?: boolean;
  children: ReactNode | ((form: UseFormReturn<In, unknown, Out>) => ReactNode);
}

/** When what was typed is kept, nothing of it is left to be said. */
const AFRESH = { keepDirtyValues: false, keepErrors: false, keepIsSubmitted: false, keepSubmitCount: false };

/**
 * A form that does one thing with its fields, once at a time. What is wrong is said at its field, and the first such field has the focus;
 * what concerns none of them stands below the buttons. Nothing that was typed is lost by an error, and leaving with it is asked about.
 */
export function Form<In extends FieldValues, Out>({
  schema,
  values,
  name,
  label,
  busyLabel,
  isQuiet = false,
  className = '',
  act,
  other,
  beside,
  isEmptied = false,
  isOff = false,
  isFleeting = false,
  children,
}: FormProps<In, Out>) {
  const form = useForm<In, unknown, Out>({
    resolver: zodResolver<In, unknown, Out, z.ZodType<Out, In>>(schema),
    defaultValues: values as DefaultValues<In>,
    values,
    // what is drawn anew beside it takes neither what was typed nor what was said of it
    resetOptions: { keepDirtyValues: true, keepErrors: true, keepIsSubmitted: true, keepSubmitCount: true },
  });
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const isUnderWay = useRef(false);
  useUnsaved(form.formState.isDirty && !isFleeting);

  const send = (what: (sent: Out) => Promise<unknown>) => async (sent: Out) => {
    if (isUnderWay.current) return;
    isUnderWay.current = true;
    setBusy(true);
    setProblem(null);
    try {
      await what(sent);
      // it is kept: what stands there now is where changes begin from
      if (isEmptied && what === act) form.reset(values, AFRESH);
      else form.reset(form.getValues(), { ...AFRESH, keepValues: true });
    } catch (error) {
      if (!atFields(form, error)) setProblem((error as Error).message);
    } finally {
      isUnderWay.current = false;
      setBusy(false);
    }
  };
  return (
    <FormProvider {...form}>
      <form
        noValidate
        aria-label={name}
        className={`flex flex-col gap-4 ${className}`}
        onSubmit={(event) => {
          const by = (event.nativeEvent as SubmitEvent).submitter as HTMLButtonElement | null;
          void form.handleSubmit(send(other && by?.value === 'other' ? other.act : act))(event);
        }}
      >
        {typeof children === 'function' ? children(form) : children}
        <div className="flex flex-wrap gap-2">
          <button type="submit" className={isQuiet ? 'quiet' : 'press'} aria-busy={busy} disabled={isOff}>
            <SteadyLabel label={label} busyLabel={busyLabel} isBusy={busy} />
          </button>
          {other && (
            <button type="submit" value="other" className="quiet">
              {other.label}
            </button>
          )}
          {beside}
        </div>
        <Problem text={problem} />
      </form>
    </FormProvider>
  );
}

/** Says what the server found wrong at the fields it is about. @returns whether there was such a field. */
function atFields<In extends FieldValues, Out>(form: UseFormReturn<In, unknown, Out>, error: unknown): boolean {
  if (!(error instanceof CallError)) return false;
  const names = Object.keys(form.getValues()) as Path<In>[];
  let isSaid = false;
  for (const { at, message } of error.issues) {
    const field =
      get(form.getValues(), at) !== undefined && typeof get(form.getValues(), at) !== 'object'
        ? (at as Path<In>)
        : names.find((one) => at === one || at.startsWith(`${one}.`));
    if (field === undefined) continue;
    form.setError(field, { type: 'server', message }, { shouldFocus: !isSaid });
    isSaid = true;
  }
  return isSaid;
}
