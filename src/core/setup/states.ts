import type { Settings } from '../settings/settings';
import { count, plural } from '../wording/format';
import { ABILITIES, ABILITY_SPECS, DESCRIBED, isUnset, setBy, type TriedAbility } from './abilities';
import type { Purpose } from './purposes';
import type { AbilityState, Tries } from './tried';

/** Prices that are open, by the currency that they are quoted in. */
export type Quoted = readonly { currency: string; offers: number }[];

/** A source of venues or link exports, and how it was read last. Times in ms since 1970 UTC. */
export interface Gathered {
  kind: 'venue' | 'links';
  name: string;
  rows: number;
  /** When its last reading ended; null: it has not. */
  at: number | null;
  /** Why that failed; null: it did not. */
  error: string | null;
}

/** What abilities are judged by, beside the settings. */
export interface Known {
  tries: Tries;
  quoted: Quoted;
  /** The latest first. */
  gathered: readonly Gathered[];
}

/**
 * How all abilities stand: by what is set, by what came when it was tried as it is set now, by the prices that are there, and by what was
 * read of venues and link exports.
 */
export function abilityStates(settings: Settings, { tries, quoted, gathered }: Known): AbilityState[] {
  return ABILITIES.map((ability) => {
    switch (ability) {
      case 'currency':
        return currencyState(settings, quoted);
      case 'venues':
        return gatheredState(
          'venues',
          settings,
          gathered.filter(({ kind }) => kind === 'venue'),
        );
      case 'backlinks':
        return gatheredState(
          'backlinks',
          settings,
          gathered.filter(({ kind }) => kind === 'links'),
        );
      default:
        return triedState(ability, settings, tries);
    }
  });
}

const THINGS = { venues: ['venue', 'name'], backlinks: ['link export', 'row'] } as const;

/** By what was read last: a reading that failed is said before those that did not. */
function gatheredState(
  ability: 'venues' | 'backlinks',
  settings: Settings,
  gathered: readonly Gathered[],
): AbilityState {
  const described = settings.connections.find(({ use, isOn }) => use === DESCRIBED[ability] && isOn);
  const [thing, row] = THINGS[ability];
  const failed = gathered.find(({ error }) => error !== null);
  if (failed) return { ability, state: 'fails', words: `${failed.name}: ${failed.error}`, at: failed.at };
  const read = gathered.filter(({ at }) => at !== null);
  if (read.length > 0) {
    const rows = read.reduce((sum, one) => sum + one.rows, 0);
    const asked = ability === 'backlinks' && described ? ` ${described.title} is asked for figures.` : '';
    return {
      ability,
      state: 'works',
      words: `${plural(read.length, thing)} with ${plural(rows, row)}, the last ${read[0].name}.${asked}`,
      at: read[0].at,
    };
  }
  if (gathered.length > 0) return { ability, state: 'untried', words: `${gathered[0].name} is being read.`, at: null };
  if (!described) return { ability, state: 'unset', words: ABILITY_SPECS[ability].takes, at: null };
  const next = ability === 'venues' ? 'its listings were not read yet' : 'it is asked from the pool';
  return { ability, state: 'untried', words: `${described.title} is described; ${next}.`, at: null };
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
