'use client';

import { type ComponentProps, type ReactNode, useId, useState } from 'react';
import { get, useFormContext } from 'react-hook-form';

/** The first message at a field, or within what it holds. */
function messageOf(error: unknown): string | null {
  if (typeof error !== 'object' || error === null) return null;
  if ('message' in error && typeof error.message === 'string' && error.message !== '') return error.message;
  for (const [key, inner] of Object.entries(error)) {
    const message = key === 'ref' ? null : messageOf(inner);
    if (message !== null) return message;
  }
  return null;
}

/**
 * A field of the form around it: what its element is given, and what is wrong with it. What stands in it at first is drawn by the server
 * already.
 *
 * @param value of a tick that is one of a list, or of a choice that is one of several.
 */
export function useField(name: string, value?: string) {
  const { register, formState, getValues } = useFormContext();
  const id = useId();
  const [first] = useState<unknown>(() => getValues(name));
  const message = messageOf(get(formState.errors, name));
  return {
    given: {
      ...register(name),
      'aria-invalid': message === null ? undefined : true,
      'aria-describedby': message === null ? undefined : id,
    },
    /** For what is typed or chosen. */
    defaultValue: typeof first === 'string' ? first : undefined,
    /** For what is ticked. */
    defaultChecked: Array.isArray(first)
      ? first.includes(value)
      : first === true || (value !== undefined && first === value),
    /** To be shown below it. */
    problem:
      message === null ? null : (
        <span id={id} role="alert" className="mt-0.5 block bg-quince px-2 py-0.5">
          {message}
        </span>
      ),
  };
}

/** What is wrong with a group of fields, or with what has none of its own. */
export function Complaint({ name }: { name: string }) {
  const { formState } = useFormContext();
  const error = get(formState.errors, name) as { message?: unknown } | undefined;
  const message = typeof error?.message === 'string' ? error.message : null;
  if (message === null) return null;
  return (
    <span role="alert" className="block w-fit bg-quince px-2 py-0.5">
      {message}
    </span>
  );
}

/** Where the label of a field stands: above it, above it in small print, before it on one line, or behind it and its unit. */
type LabelPlace = 'above' | 'small' | 'before' | 'behind';

interface Labelling {
  name: string;
  label: ReactNode;
  hint?: string;
  place?: LabelPlace;
  /** What stands behind the field, as a unit. */
  unit?: string;
  /** What stands below it in small print. */
  below?: string;
  /** Of the whole. */
  outer?: string;
}

function Framed({
  label,
  hint,
  place = 'above',
  unit,
  below,
  outer = '',
  problem,
  children,
}: Omit<Labelling, 'name'> & { problem: ReactNode; children: ReactNode }) {
  if (place === 'before')
    return (
      <div className={outer}>
        {/* biome-ignore lint/a11y/noLabelWithoutControl: the field is given as the child */}
        <label className="flex items-center gap-2">
          <span>{label}</span>
          <span className="ml-auto">{children}</span>
          {unit !== undefined && <span className="small w-14">{unit}</span>}
        </label>
        {problem}
      </div>
    );
  if (place === 'behind')
    return (
      <div className={outer}>
        {/* biome-ignore lint/a11y/noLabelWithoutControl: the field is given as the child */}
        <label className="flex items-center">
          {children}
          <span className="small w-14 shrink-0 pl-2">{unit}</span>
          <span>{label}</span>
        </label>
        {problem}
      </div>
    );
  return (
    <div className={outer}>
      {/* biome-ignore lint/a11y/noLabelWithoutControl: the field is given as the child */}
      <label className="block">
        <span className={place === 'small' ? 'small block' : 'font-semibold'}>{label}</span>
        {hint && <span className="small ml-2">{hint}</span>}
        <span className={place === 'small' ? 'block' : 'mt-1 block'}>
          {children}
          {unit !== undefined && ` ${unit}`}
        </span>
        {below && <span className="small block">{below}</span>}
      </label>
      {problem}
    </div>
  );
}

/** A field of one line: text, a number, an amount, a day, a password. */
export function LineField({
  label,
  hint,
  place,
  unit,
  below,
  outer,
  className = 'w-full',
  ...rest
}: Labelling & Omit<ComponentProps<'input'>, 'name'>) {
  const { given, defaultValue, problem } = useField(rest.name);
  return (
    <Framed {...{ label, hint, place, unit, below, outer, problem }}>
      <input defaultValue={defaultValue} {...rest} {...given} className={`field ${className}`} />
    </Framed>
  );
}

/** A field without a label in sight: `aria-label` names it. */
export function BareField({
  className = '',
  ...rest
}: Omit<ComponentProps<'input'>, 'name' | 'aria-label'> & { name: string; 'aria-label': string }) {
  const { given, defaultValue, problem } = useField(rest.name);
  return (
    <span className={className}>
      <input defaultValue={defaultValue} {...rest} {...given} className="field w-full" />
      {problem}
    </span>
  );
}

/** One of several without a label in sight: `aria-label` names it. */
export function BareChoice({
  options,
  className = '',
  ...rest
}: Omit<ComponentProps<'select'>, 'name' | 'aria-label'> & { name: string; 'aria-label': string; options: Options }) {
  const { given, defaultValue, problem } = useField(rest.name);
  return (
    <span>
      <select defaultValue={defaultValue} {...rest} {...given} className={`field ${className}`}>
        <Choices options={options} />
      </select>
      {problem}
    </span>
  );
}

/** Several lines without a label in sight: `aria-label` names them. */
export function BareArea({
  className = '',
  ...rest
}: Omit<ComponentProps<'textarea'>, 'name' | 'aria-label'> & { name: string; 'aria-label': string }) {
  const { given, defaultValue, problem } = useField(rest.name);
  return (
    <span className="block">
      <textarea defaultValue={defaultValue} {...rest} {...given} className={`field ${className}`} />
      {problem}
    </span>
  );
}

/** A whole number, as it is typed. */
export const NumberField = (props: ComponentProps<typeof LineField>) => (
  <LineField inputMode="numeric" {...props} className={`text-right ${props.className ?? 'w-28'}`} />
);

/** An amount, or another number with a point. */
export const AmountLine = (props: ComponentProps<typeof LineField>) => (
  <LineField inputMode="decimal" {...props} className={`text-right ${props.className ?? 'w-28'}`} />
);

/** A field of several lines. */
export function AreaField({
  label,
  hint,
  place,
  below,
  outer,
  className = 'w-full resize-y',
  ...rest
}: Labelling & Omit<ComponentProps<'textarea'>, 'name'>) {
  const { given, defaultValue, problem } = useField(rest.name);
  return (
    <Framed {...{ label, hint, place, below, outer, problem }}>
      <textarea defaultValue={defaultValue} {...rest} {...given} className={`field ${className}`} />
    </Framed>
  );
}

type Options = readonly (readonly [value: string, words: string])[];

const Choices = ({ options }: { options: Options }) =>
  options.map(([value, words]) => (
    <option key={value} value={value}>
      {words}
    </option>
  ));

/** One of several, by their values and words. */
export function ChoiceField({
  label,
  hint,
  place,
  outer,
  className = '',
  options,
  ...rest
}: Labelling & Omit<ComponentProps<'select'>, 'name'> & { options: Options }) {
  const { given, defaultValue, problem } = useField(rest.name);
  return (
    <Framed {...{ label, hint, place, outer, problem }}>
      <select defaultValue={defaultValue} {...rest} {...given} className={`field ${className}`}>
        <Choices options={options} />
      </select>
    </Framed>
  );
}

/** Yes or no; with `value` one of those that the field has as a list. */
export function TickField({
  name,
  hint,
  value,
  className = '',
  children,
}: {
  name: string;
  hint?: string;
  value?: string;
  className?: string;
  children: ReactNode;
}) {
  const { given, defaultChecked, problem } = useField(name, value);
  return (
    <div className={className}>
      <label className="flex items-baseline gap-2">
        <input type="checkbox" defaultChecked={defaultChecked} {...given} value={value} />
        <span>
          {children} {hint && <span className="small">{hint}</span>}
        </span>
      </label>
      {problem}
    </div>
  );
}

/** One of several that all stand there, under the same name. */
export function RadioField({
  name,
  value,
  className = '',
  children,
}: {
  name: string;
  value: string;
  className?: string;
  children: ReactNode;
}) {
  const { given, defaultChecked } = useField(name, value);
  return (
    <label className={`flex items-baseline gap-2 ${className}`}>
      <input type="radio" defaultChecked={defaultChecked} {...given} value={value} />
      {children}
    </label>
  );
}
