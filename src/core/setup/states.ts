import type { Settings } from '../settings/settings';
import { count, plural } from '../wording/format';
import { ABILITIES, ABILITY_SPECS, isUnset, setBy, type TriedAbility } from './abilities';
import type { Purpose } from './purposes';
import type { AbilityState, Tries } from './tried';

/** Prices that are open, by the currency that they are quoted in. */
export type Quoted = readonly { currency: string; offers: number }[];

/** How all abilities stand: by what is set, by what came when it was tried as it is set now, and by the prices that are there. */
export function abilityStates(settings: Settings, tries: Tries, quoted: Quoted): AbilityState[] {
  return ABILITIES.map((ability) =>
    ability === 'currency' ? currencyState(settings, quoted) : triedState(ability, settings, tries),
  );
}

function triedState(ability: TriedAbility, settings: Settings, tries: Tries): AbilityState {
  if (isUnset(ability, settings)) return { ability, state: 'unset', words: ABILITY_SPECS[ability].takes, at: null };
  const tried = tries[ability];
  if (!tried) return { ability, state: 'untried', words: 'It is set and was not tried yet.', at: null };
  if (tried.setBy !== setBy(ability, settings))
    return { ability, state: 'untried', words: 'It is set otherwise than when it was tried last.', at: null };
  const words = tried.outcome === 'works' ? tried.understood[0] : tried.problem?.words;
  return { ability, state: tried.outcome === 'works' ? 'works' : 'fails', words: words ?? '', at: tried.at };
}

function currencyState({ currency, rates }: Settings, quoted: Quoted): AbilityState {
  const missing = quoted.filter((one) => one.currency !== currency && rates[one.currency] === undefined);
  if (missing.length > 0) {
    const words = missing.map((one) => `${one.currency} (${plural(one.offers, 'price')})`).join(', ');
    return {
      ability: 'currency',
      state: 'fails',
      words: `No rate is set for ${words}: unknown in ${currency}.`,
      at: null,
    };
  }
  const others = quoted.filter((one) => one.currency !== currency).length;
  if (others > 0)
    return {
      ability: 'currency',
      state: 'works',
      words: `Prices in ${currency} and ${plural(others, 'other currency', 'other currencies')} are known in ${currency}.`,
      at: null,
    };
  const offers = quoted.reduce((sum, one) => sum + one.offers, 0);
  return offers > 0
    ? { ability: 'currency', state: 'works', words: `All ${count(offers)} open prices are in ${currency}.`, at: null }
    : {
        ability: 'currency',
        state: 'untried',
        words: `Yours is ${currency}; no source has quoted a price yet.`,
        at: null,
      };
}

/** Abilities in the order of their use: those that most of what was chosen needs come first. */
export function inOrder(states: readonly AbilityState[], chosen: readonly Purpose[]): AbilityState[] {
  const needs = (ability: AbilityState['ability']) =>
    ABILITY_SPECS[ability].purposes.filter((purpose) => chosen.includes(purpose)).length;
  return [...states].sort((a, b) => Math.sign(needs(b.ability)) - Math.sign(needs(a.ability)));
}
