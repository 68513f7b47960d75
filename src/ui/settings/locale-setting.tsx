'use client';

import { useId, useState } from 'react';
import { cents } from '../../core/formats/figures';
import { date } from '../../core/wording/format';
import { LOCALE_COOKIE, LOCALES } from '../../core/wording/locale';
import { useNow } from '../shell/live';

const MAX_AGE_S = 31_536_000;
const SAMPLE = 1234.5;

function keep(locale: string): void {
  const age = locale === '' ? 0 : MAX_AGE_S;
  // biome-ignore lint/suspicious/noDocumentCookie: the cookie lets the server write the next page so at once
  document.cookie = `${LOCALE_COOKIE}=${locale}; path=/; max-age=${age}; samesite=strict`;
}

/** In whose way numbers and dates are written in this browser. */
export function LocaleSetting({
  chosen,
  drawAnew = () => window.location.reload(),
}: {
  /** A locale; empty: as the browser has them. */
  chosen: string;
  drawAnew?(): void;
}) {
  const id = useId();
  const now = useNow();
  const [isChanging, setChanging] = useState(false);
  return (
    <div className="flex flex-col">
      <label htmlFor={id} className="font-semibold">
        Numbers and dates
      </label>
      <select
        id={id}
        className="field w-56"
        value={chosen}
        disabled={isChanging}
        onChange={(event) => {
          setChanging(true);
          keep(event.target.value);
          drawAnew();
        }}
      >
        <option value="">as the browser has them</option>
        {LOCALES.map(([locale, name]) => (
          <option key={locale} value={locale}>
            {name}
          </option>
        ))}
      </select>
      <span className="small">
        now {cents(SAMPLE)} and {date(now)}, in this browser
      </span>
    </div>
  );
}
