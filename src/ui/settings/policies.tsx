'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { type Days, type LifePolicy, POLICIES, policyFor } from '../../core/lifecycle/policies';
import { call } from '../api';

const DAY_FIELDS = [
  ['autoRenewDays', 'Auto-renew'],
  ['redemptionDays', 'Redemption'],
  ['pendingDeleteDays', 'Pending delete'],
] as const;

/** Those that most lists are of, and what is assumed for the rest. */
const SHOWN = new Set(['com', 'net', 'org', 'info', 'uk', 'de', 'eu', 'fr', 'nl', 'me', 'io', 'co', '*']);
const WEEKDAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];

const written = ([shortest, longest]: Days) => (shortest === longest ? String(longest) : `${shortest} to ${longest}`);

/** "30" or "0 to 45". @throws on what is neither. */
function readPair(text: string, what: string): Days {
  const found = /^\s*(\d{1,3})\s*(?:(?:to|-|–)\s*(\d{1,3}))?\s*$/.exec(text);
  if (!found) throw new Error(`"${text.slice(0, 30)}" for ${what} is not understood: write it like 30 or 0 to 45.`);
  return [Number(found[1]), Number(found[2] ?? found[1])];
}

/** The grace periods of endings: what registries publish, and where the person knows better, their own. */
export function Policies({ own }: { own: LifePolicy[] }) {
  const router = useRouter();
  const [ending, setEnding] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [wanted, setWanted] = useState('');
  const all = [...new Set([...own.map((policy) => policy.ending), ...POLICIES.map((policy) => policy.ending)])];
  const sought = wanted.trim().toLowerCase().replace(/^\./, '');
  const endings = all.filter((name) =>
    sought === '' ? SHOWN.has(name) || own.some((policy) => policy.ending === name) : name.startsWith(sought),
  );
  const keep = async (policies: LifePolicy[], words: string) => {
    await call('PATCH /settings', { body: { policies } });
    toast(words, {
      action: {
        label: 'Undo',
        onClick: () => void call('PATCH /settings', { body: { policies: own } }).then(() => router.refresh()),
      },
    });
    setEnding(null);
    router.refresh();
  };
  const save = async (form: FormData) => {
    setProblem(null);
    try {
      const name = String(form.get('ending')).trim().toLowerCase().replace(/^\./, '');
      const policy: LifePolicy = {
        ending: name,
        autoRenewDays: readPair(String(form.get('autoRenewDays')), 'the auto-renew period'),
        redemptionDays: readPair(String(form.get('redemptionDays')), 'redemption'),
        pendingDeleteDays: readPair(String(form.get('pendingDeleteDays')), 'pending delete'),
        dropHours: readPair(String(form.get('dropHours')), 'the drop hours'),
        isExpiryMoved: form.get('isExpiryMoved') === 'on',
        reference: String(form.get('reference')).trim() || 'set by hand',
      };
      await keep([...own.filter((one) => one.ending !== name), policy], `The rules of .${name} are kept`);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const edited = ending === null ? null : policyFor(ending === '' ? '*' : ending, own);
  return (
    <section aria-labelledby="policies">
      <h2 id="policies">The life of a name after its expiry, by TLD</h2>
      <p className="small mb-1">
        Days of each stage, and the hours, UTC, at which names are set free. By the rules of registries, most of them
        from memory and so with a margin; yours go first.
      </p>
      <p className="mb-1 flex items-baseline gap-2">
        <label>
          Find an ending{' '}
          <input
            className="field w-28"
            value={wanted}
            maxLength={40}
            onChange={(event) => setWanted(event.target.value)}
          />
        </label>
        <span className="small" role="status">
          {sought === ''
            ? `${endings.length} of ${all.length} are shown`
            : endings.length === 0
              ? `none begins with .${sought}: it goes by what is assumed for all others`
              : `${endings.length} of ${all.length}`}
        </span>
      </p>
      <table className="w-full">
        <thead className="small">
          <tr className="text-left">
            <th className="w-16 font-normal">TLD</th>
            {DAY_FIELDS.map(([key, title]) => (
              <th key={key} className="pr-4 font-normal">
                {title}
              </th>
            ))}
            <th className="pr-4 font-normal">Drop hours</th>
            <th className="font-normal">Where it stands</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {endings.map((name) => {
            const policy = policyFor(name, own);
            const isOwn = own.includes(policy);
            return (
              <tr key={name} className="border-t border-rule align-top" data-policy={name}>
                <td className="py-1 pr-3 font-semibold whitespace-nowrap">
                  {name === '*' ? 'all others' : `.${name}`}
                </td>
                {DAY_FIELDS.map(([key]) => (
                  <td key={key} className="py-1 pr-4 whitespace-nowrap">
                    {written(policy[key])}
                  </td>
                ))}
                <td className="py-1 pr-4 whitespace-nowrap">
                  {policy.dropHours.join(' to ')}
                  {policy.dropWeekdays && `, ${policy.dropWeekdays.map((one) => WEEKDAYS[one]).join(', ')}`}
                </td>
                <td className="small py-1 pr-2">
                  {policy.reference}
                  {policy.isExpiryMoved && '; registration data shows the next expiry at once'}
                  {policy.marginDays !== undefined && `; ${policy.marginDays} days either way`}
                </td>
                <td className="py-1 text-right whitespace-nowrap">
                  <button type="button" className="set" onClick={() => setEnding(name)}>
                    change
                  </button>
                  {isOwn && (
                    <button
                      type="button"
                      className="set ml-2"
                      onClick={() =>
                        void keep(
                          own.filter((one) => one.ending !== name),
                          `.${name} goes by what is published again`,
                        )
                      }
                    >
                      as published
                    </button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {edited === null ? (
        <button type="button" className="quiet mt-2" onClick={() => setEnding('')}>
          Add an ending
        </button>
      ) : (
        <form
          key={ending}
          action={(form) => void save(form)}
          aria-label="Rules of a TLD"
          className="mt-2 flex flex-wrap items-end gap-3 border-t border-rule pt-2"
        >
          <label className="small">
            Ending
            <input
              name="ending"
              className="field block w-24"
              defaultValue={ending ?? ''}
              readOnly={ending !== ''}
              required
            />
          </label>
          {DAY_FIELDS.map(([key, title]) => (
            <label key={key} className="small">
              {title}, days
              <input name={key} className="field block w-24" defaultValue={written(edited[key])} />
            </label>
          ))}
          <label className="small">
            Drop hours, UTC
            <input name="dropHours" className="field block w-24" defaultValue={edited.dropHours.join(' to ')} />
          </label>
          <label className="small">
            Where it stands
            <input name="reference" className="field block w-56" defaultValue={edited.reference} />
          </label>
          <label className="flex items-center gap-1.5">
            <input type="checkbox" name="isExpiryMoved" defaultChecked={edited.isExpiryMoved} />
            the record shows the next expiry at once
          </label>
          <button type="submit" className="press">
            Keep
          </button>
          <button type="button" className="quiet" onClick={() => setEnding(null)}>
            Leave it
          </button>
          {problem && (
            <p role="alert" className="w-full bg-quince px-3 py-2">
              {problem}
            </p>
          )}
        </form>
      )}
    </section>
  );
}
