import { readRateTable } from '../../../../core/listings/rate-table';
import { plural } from '../../../../core/wording/format';
import { tablesOf } from '../../../../services/files/table-of';
import { readSettings } from '../../../../store/base/settings';
import { recordSettings } from '../../../../store/domains/acts';
import { getEngine, getStore } from '../../../server';
import { bytesOf } from '../../bodies';
import { Problem, route } from '../../respond';

const MOST_BYTES = 20 * 1024 * 1024;
const ASIDE_TOLD = 100;

/** Takes a table of rates; those of currencies that it does not name stay as they are. */
export const POST = route('POST /rates', async ({ request }) => {
  const store = await getStore();
  const { currency, rates } = readSettings(store);
  const { worth, at, base, aside, problem } = readRateTable(
    await tablesOf(await bytesOf(request, MOST_BYTES, 'A table of rates')),
    currency,
  );
  if (problem)
    throw new Problem(400, 'The file makes no sense', problem, 'Give it a header line like currency,rate,base,date.');
  const taken = Object.keys(worth).length;
  const { act } = recordSettings(store, `${plural(taken, 'rate')} from a table`, {
    rates: { ...rates, ...worth },
    ratesAt: at ?? store.now(),
  });
  await getEngine().settingsChanged();
  return { taken, at, base, aside: aside.slice(0, ASIDE_TOLD), act };
});
