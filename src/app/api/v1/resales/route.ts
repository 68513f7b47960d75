import { domainRow } from '../../../../app/api/domain-row';
import { sellingText } from '../../../../core/selling/listing-text';
import { salePlan, saleView } from '../../../../services/selling/selling';
import { readSettings } from '../../../../store/base/settings';
import { openResales } from '../../../../store/portfolio/resale-rows';
import { offerResale } from '../../../../store/portfolio/resales';
import { currentBrief, getStore } from '../../../server';
import { answered, Problem, route } from '../../respond';

/** What is offered for sale now, with who asked. */
export const GET = route('GET /resales', async () => {
  const store = await getStore();
  return { sales: openResales(store).map((sale) => saleView(store, sale)) };
});

/** Offers an owned domain. Its text is made of evidenced sentences. It is on disk before anything is sent, and is sent once. */
export const POST = route('POST /resales', async ({ body }) => {
  const { name, venue, askMinor, floorMinor, currency, sentences } = body;
  const { store, row } = await domainRow(name);
  const { isDryRun, accounts } = readSettings(store);
  const account = accounts.find((one) => one.venue === venue) ?? null;
  if (account && account.currency !== currency)
    throw new Problem(400, 'The request makes no sense', `Prices at ${venue} are in ${account.currency}.`);
  const { engine, brief } = await currentBrief();
  const plan = await salePlan(store, engine, brief, row);
  const text = sellingText(plan?.sentences ?? [], sentences ?? null);
  if (text === '') throw new Problem(400, 'The request makes no sense', 'Choose at least one sentence for its text.');
  const state = account === null ? 'by hand' : isDryRun ? 'dry run' : 'queued';
  const sale = offerResale(store, { domainId: row.id, venue, askMinor, floorMinor, currency, text, state });
  const after = state === 'queued' ? await engine.resaleLook(sale.id) : sale;
  return answered(201, { sale: saleView(store, after ?? sale) });
});
