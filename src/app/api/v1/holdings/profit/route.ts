import { profitBy } from '../../../../../core/money/profit';
import { entriesTable } from '../../../../../services/exports/lists/money';
import { readRates } from '../../../../../store/base/settings';
import { moneyEntries } from '../../../../../store/portfolio/holdings';
import { getStore } from '../../../../server';
import { exportAnswer } from '../../../export-answer';
import { route } from '../../../respond';

/** Profit and loss of what is owned; as a file, every entry, so that each sum can be traced. */
export const GET = route('GET /holdings/profit', async ({ query: { by, format } }) => {
  const store = await getStore();
  if (format !== 'json') return exportAnswer(entriesTable(store), format);
  const { home } = readRates(store);
  return { currency: home, by, lines: profitBy(moneyEntries(store), by) };
});
