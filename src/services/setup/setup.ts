import type { Setup } from '../../contracts/setup';
import { purposesOf } from '../../core/setup/purposes';
import { abilityStates, inOrder } from '../../core/setup/states';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { readTries } from '../../store/base/tries';
import { quotedCurrencies } from '../../store/offers/listings';
import { lastReadings } from '../../store/sources/readings';

/** What works with outside services, and what it takes; what the person's purposes need comes first. */
export function setupOf(store: Store): Setup {
  const settings = readSettings(store);
  const tries = readTries(store);
  const purposes = purposesOf(settings.purposes);
  const known = { tries, quoted: quotedCurrencies(store), gathered: lastReadings(store) };
  return { purposes, abilities: inOrder(abilityStates(settings, known), purposes), tries };
}
