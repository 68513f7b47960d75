'use client';

import { useState } from 'react';
import { readAmount, typedAmount } from '../../core/money/typed-amount';

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
  const text = typedAmount(minor);
  const [isWrong, setWrong] = useState(false);
  return (
    <span className="relative inline-block">
      <input
        key={text}
        className={`field py-0.5 text-right ${className}`}
        inputMode="decimal"
        aria-label={label}
        aria-invalid={isWrong}
        placeholder={placeholder}
        defaultValue={text}
        onBlur={(event) => {
          const said = readAmount(event.target.value);
          setWrong(said === undefined);
          if (said !== undefined && said !== minor) onKeep(said);
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
