import type { Answer, Sent } from '../../contracts/calls';
import { CallError, call } from '../api';

/** After these it may have been taken all the same: the answer was lost on its way. */
const LOST = new Set(['engine-away', 'unreachable']);
const PAUSE_MS = 1500;
const PATIENCE_MS = 60_000;

/**
 * Gives an order, and where its answer is lost asks until it is known: under the same key it is the same order, however often it is given.
 *
 * @param onUnknown told when it cannot be said yet whether it was taken.
 * @throws CallError why it was not taken, or that it is not known after a minute.
 */
export async function giveOrder(
  body: Sent<'POST /orders'> & { clientKey: string },
  onUnknown: () => void,
): Promise<Answer<'POST /orders'>['order']> {
  const until = Date.now() + PATIENCE_MS;
  for (;;) {
    try {
      return (await call('POST /orders', { body })).order;
    } catch (error) {
      if (!(error instanceof CallError) || !LOST.has(error.code)) throw error;
      if (Date.now() > until)
        throw new CallError(
          `It is not known whether the order was taken: ${error.message} Look under Bids and orders before you give it again; from here it is given once.`,
          error.code,
        );
    }
    onUnknown();
    await new Promise((rest) => setTimeout(rest, PAUSE_MS));
  }
}
