import { numbersIn } from '../wording/locale';

/** Figures as they are read, in the way of whoever reads them (`wording/locale`); never for files and fields. */

/** "12,345". */
export const whole = (value: number): string => numbersIn({ maximumFractionDigits: 0 }, 'whole').format(value);

/** "12,345.6", without a zero behind the point. */
export const tenths = (value: number): string => numbersIn({ maximumFractionDigits: 1 }, 'tenths').format(value);

/** "0.25", without zeros behind it. */
export const hundredths = (value: number): string =>
  numbersIn({ maximumFractionDigits: 2 }, 'hundredths').format(value);

/** "12.50" with two digits, "0.250" with three. */
export const fixed = (value: number, digits: number): string =>
  numbersIn({ minimumFractionDigits: digits, maximumFractionDigits: digits }, `fixed ${digits}`).format(value);

/** "12.50". */
export const cents = (value: number): string => fixed(value, 2);
