import type { ReactNode } from 'react';

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

/** Words of a field, parted by commas, semicolons or white space. */
export const wordsOf = (text: FormDataEntryValue | null) =>
  String(text ?? '')
    .split(/[\s,;]+/)
    .filter(Boolean);
