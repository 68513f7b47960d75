'use client';

import { type ComponentProps, useState } from 'react';
import { useForm } from 'react-hook-form';
import { toast } from 'sonner';

/** A line to type and a button that takes it. It is empty again once it is taken; an error is said, and the line stays. */
export function OneLine({
  label,
  button,
  before,
  value = '',
  className = 'min-w-0 grow',
  outer = 'flex gap-2',
  act,
  ...rest
}: {
  /** What is read aloud. */
  label: string;
  button: string;
  /** What stands before it in sight. */
  before?: string;
  value?: string;
  className?: string;
  outer?: string;
  act(line: string): unknown;
} & Omit<ComponentProps<'input'>, 'value' | 'className' | 'aria-label'>) {
  const { register, handleSubmit, reset, watch } = useForm({ values: { line: value } });
  const [isUnderWay, setUnderWay] = useState(false);
  const isEmpty = watch('line').trim() === '';
  const take = handleSubmit(async ({ line }) => {
    if (isUnderWay) return;
    if (line.trim() === '') {
      reset({ line: '' });
      return;
    }
    setUnderWay(true);
    try {
      await act(line.trim());
      reset({ line: '' });
    } catch (error) {
      toast((error as Error).message);
    } finally {
      setUnderWay(false);
    }
  });
  return (
    <form className={outer} onSubmit={(event) => void take(event)}>
      {before}
      <input {...rest} {...register('line')} aria-label={label} className={`field ${className}`} />
      <button type="submit" className="quiet" aria-disabled={isEmpty}>
        {button}
      </button>
    </form>
  );
}
