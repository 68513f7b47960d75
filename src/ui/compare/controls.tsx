'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { OneLine } from '../forms/one-line';
import { Hears } from '../shell/hears';
import { pressed } from '../shell/key-list';
import { isTyping } from '../shell/shell';

/** Puts another domain beside those that are there, or takes one away. */
export function CompareField({ names, most }: { names: string[]; most: number }) {
  const router = useRouter();
  const go = (next: string[]) => {
    const address = new URLSearchParams(next.map((name) => ['name', name]));
    router.push(`/compare?${address}`);
  };
  return (
    <div className="ml-auto flex flex-wrap items-center gap-2">
      {names.length > 1 &&
        names.map((name) => (
          <button
            key={name}
            type="button"
            className="small max-w-40 truncate underline"
            onClick={() => go(names.filter((one) => one !== name))}
          >
            without {name}
          </button>
        ))}
      {names.length < most && (
        <OneLine
          label="Another domain"
          button="Put it beside"
          placeholder="another domain"
          maxLength={300}
          className="w-56 py-0.5"
          act={(line) => go([...names, ...line.split(/[\s,]+/)])}
        />
      )}
    </div>
  );
}

/** Shows all facts or only those that differ; d does the same. */
export function OnlyDifferences({ isOn }: { isOn: boolean }) {
  const router = useRouter();
  const path = usePathname();
  const parameters = useSearchParams();
  const toggle = () => {
    const next = new URLSearchParams(parameters);
    if (isOn) next.delete('only');
    else next.set('only', 'differences');
    router.replace(`${path}?${next}`, { scroll: false });
  };
  return (
    <button type="button" className="quiet" aria-pressed={isOn} onClick={toggle}>
      <Hears onKey={(event) => pressed('side by side', event) === 'differs' && !isTyping(event) && toggle()} />
      {isOn ? 'Show everything' : 'Only what differs'} <kbd className="small">d</kbd>
    </button>
  );
}
