import { numbersIn } from '../wording/locale';

/** Figures as they are read, in the way of whoever reads them (`wording/locale`); never for files and fields of numbers. */

const WHOLE = numbersIn({ maximumFractionDigits: 0 });
const TENTHS = numbersIn({ maximumFractionDigits: 1 });
const HUNDREDTHS = numbersIn({ maximumFractionDigits: 2 });
const FIXED = [0, 1, 2, 3].map((digits) => numbersIn({ minimumFractionDigits: digits, maximumFractionDigits: digits }));

/** "12,345". */
export const whole = (value: number): string => WHOLE().format(value);

/** "12,345.6", without a zero behind the point. */
export const tenths = (value: number): string => TENTHS().format(value);

/** "0.25", without zeros behind it. */
export const hundredths = (value: number): string => HUNDREDTHS().format(value);

/** "12.50" with two digits, "0.250" with three. */
export const fixed = (value: number, digits: 0 | 1 | 2 | 3): string => FIXED[digits]().format(value);

/** "12.50". */
export const cents = (value: number): string => fixed(value, 2);
