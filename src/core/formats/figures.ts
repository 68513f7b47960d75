/** Formatters are made once: making one takes longer than a hundred figures. */
const WHOLE = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });
const TENTHS = new Intl.NumberFormat('en', { maximumFractionDigits: 1 });
const HUNDREDTHS = new Intl.NumberFormat('en', { maximumFractionDigits: 2 });
const CENTS = new Intl.NumberFormat('en', { minimumFractionDigits: 2, maximumFractionDigits: 2 });

/** "12,345". */
export const whole = (value: number): string => WHOLE.format(value);

/** "12,345.6", without a zero behind the point. */
export const tenths = (value: number): string => TENTHS.format(value);

/** "0.25". */
export const hundredths = (value: number): string => HUNDREDTHS.format(value);

/** "12.50". */
export const cents = (value: number): string => CENTS.format(value);
