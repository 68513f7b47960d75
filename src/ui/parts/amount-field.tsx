'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { typedAmount } from '../../core/money/typed-amount';
import { amount } from '../forms/typed';

const TypedSum = z.object({ sum: amount() });

/** A sum of money that is kept when its field is left, or on Enter; null: none. What is no sum is told where it stands, and is not lost. */
export function AmountField({
  label,
  minor,
  placeholder = '',
  className = '',
  onKeep,
}: {
  label: string;
  minor: number | null;
  /** What holds while nothing is said. */
  placeholder?: string;
  className?: string;
  onKeep(minor: number | null): void;
}) {
  const form = useForm<z.input<typeof TypedSum>, unknown, z.output<typeof TypedSum>>({
    resolver: zodResolver(TypedSum),
    // whoever goes on to another field is not called back
    shouldFocusError: false,
    values: { sum: typedAmount(minor) },
    // a sum that comes anew does not take what is being typed
    resetOptions: { keepDirtyValues: true },
  });
  const keep = form.handleSubmit(({ sum }) => {
    if (sum !== minor) onKeep(sum);
    form.reset({ sum: typedAmount(sum) }, { keepDirtyValues: false });
  });
  const { onBlur, ...sum } = form.register('sum');
  const isWrong = form.formState.errors.sum !== undefined;
  return (
    <span className="relative inline-block">
      <input
        defaultValue={typedAmount(minor)}
        {...sum}
        className={`field py-0.5 text-right ${className}`}
        inputMode="decimal"
        aria-label={label}
        aria-invalid={isWrong}
        placeholder={placeholder}
        onBlur={(event) => {
          void onBlur(event);
          void keep();
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
      {isWrong && (
        <span role="alert" className="absolute top-full right-0 z-10 bg-quince px-2 py-1 whitespace-nowrap">
          write it as {typedAmount(14_000)} or {typedAmount(14_050)}
        </span>
      )}
    </span>
  );
}
