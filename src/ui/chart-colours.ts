'use client';

import { useEffect, useState } from 'react';

export interface ChartColours {
  damson: string;
  ink: string;
  muted: string;
  rule: string;
  sheet: string;
  font: string;
}

/** The colours of the page as a canvas needs them; null until the page is there. They follow light and dark. */
export function useChartColours(): ChartColours | null {
  const [colours, setColours] = useState<ChartColours | null>(null);
  useEffect(() => {
    const read = () => {
      const style = getComputedStyle(document.body);
      // light-dark() is resolved by asking an element, not the variable
      const probe = document.createElement('span');
      document.body.append(probe);
      const colourOf = (name: string) => {
        probe.style.color = `var(--${name})`;
        return getComputedStyle(probe).color || style.color;
      };
      const [damson, ink, muted, rule, sheet] = ['damson', 'ink', 'muted', 'rule', 'sheet'].map(colourOf);
      setColours({ damson, ink, muted, rule, sheet, font: style.fontFamily });
      probe.remove();
    };
    read();
    const media = window.matchMedia('(prefers-color-scheme: dark)');
    media.addEventListener('change', read);
    return () => media.removeEventListener('change', read);
  }, []);
  return colours;
}
