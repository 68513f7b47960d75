'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';

/** Chooses which capture stands here; the address keeps it. */
export function PickCapture({
  label,
  name,
  choices,
  value,
  isOptional = false,
}: {
  label: string;
  name: 'a' | 'b';
  choices: { at: number; words: string }[];
  value: number | null;
  isOptional?: boolean;
}) {
  const router = useRouter();
  const path = usePathname();
  const parameters = useSearchParams();
  return (
    <label className="block">
      <span className="small mr-2">{label}</span>
      <select
        className="field max-w-full py-0.5"
        value={value ?? ''}
        onChange={(event) => {
          const next = new URLSearchParams(parameters);
          if (event.target.value === '') next.delete(name);
          else next.set(name, event.target.value);
          router.replace(`${path}?${next}`, { scroll: false });
        }}
      >
        {isOptional && <option value="">none</option>}
        {choices.map(({ at, words }) => (
          <option key={at} value={at}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
