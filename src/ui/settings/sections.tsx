'use client';

import type { Answer } from '../../contracts/calls';
import { money } from '../../core/wording/format';
import { Labelled } from '../fields';

/** As the screens show them: under the names that they have now. */
export type SettingsView = Omit<Answer<'GET /settings'>, 'desks' | 'registrarDesk'>;

/** Currency, rates, and what a registration usually costs. */
export function MoneySettings({ settings }: { settings: SettingsView }) {
  return (
    <>
      <div className="flex gap-6">
        <Labelled label="Your currency">
          <input name="currency" maxLength={3} className="field w-28" defaultValue={settings.currency} />
        </Labelled>
        <div className="grow">
          <Labelled label="Rates" hint="what one unit of others is worth in yours; one a line">
            <textarea
              name="rates"
              rows={Math.max(2, Object.keys(settings.rates).length)}
              className="field w-full resize-y"
              placeholder="GBP 1.15"
              defaultValue={Object.entries(settings.rates)
                .map(([code, rate]) => `${code} ${rate}`)
                .join('\n')}
            />
          </Labelled>
        </div>
      </div>
      <Labelled
        label="Usual price of a registration"
        hint="by TLD, * for all others, in your currency; reckoned with where the registrar has not been asked"
      >
        <textarea
          name="registrationPrices"
          rows={Math.max(2, Object.keys(settings.registrationPrices).length)}
          className="field w-56 resize-y"
          placeholder="org 11.50"
          defaultValue={Object.entries(settings.registrationPrices)
            .map(([ending, minor]) => `${ending} ${money(minor, null)}`)
            .join('\n')}
        />
      </Labelled>
    </>
  );
}

/** The time zone that deadlines are in, and reminders. */
export function TimeSettings({ settings }: { settings: SettingsView }) {
  return (
    <div className="flex gap-6">
      <Labelled label="Your time zone" hint="for deadlines, like Europe/Vienna">
        <input name="timeZone" className="field w-56" defaultValue={settings.timeZone} />
      </Labelled>
      <Labelled label="Reminders" hint="minutes before a deadline; 0 for none">
        <input
          name="reminderMinutes"
          type="number"
          min={0}
          className="field w-28"
          defaultValue={settings.reminderMinutes}
        />
      </Labelled>
    </div>
  );
}

/** How the crawler names itself, how fast it asks, and what it may use. */
export function CrawlSettings({ settings }: { settings: SettingsView }) {
  return (
    <>
      <Labelled label="User agent" hint="how the crawler names itself">
        <input name="userAgent" className="field w-full" defaultValue={settings.userAgent} />
      </Labelled>
      <div className="flex gap-6">
        <Labelled label="Pause per host" hint="ms between two pages">
          <input
            name="crawlDelayMs"
            type="number"
            min={0}
            className="field w-28"
            defaultValue={settings.crawlDelayMs}
          />
        </Labelled>
        <Labelled label="Pause per registry" hint="ms between two questions">
          <input
            name="registryIntervalMs"
            type="number"
            min={0}
            className="field w-28"
            defaultValue={settings.registryIntervalMs}
          />
        </Labelled>
      </div>
      <div className="flex gap-6">
        <Labelled label="A crawl ends above" hint="MB of memory">
          <input
            name="crawlMemoryMb"
            type="number"
            min={64}
            className="field w-28"
            defaultValue={settings.crawlMemoryMb}
          />
        </Labelled>
        <Labelled label="and below" hint="MB of free disk">
          <input name="diskFloorMb" type="number" min={0} className="field w-28" defaultValue={settings.diskFloorMb} />
        </Labelled>
      </div>
    </>
  );
}

/** What may be reached, and how names are looked up. */
export function LookupSettings({ settings }: { settings: SettingsView }) {
  return (
    <>
      <Labelled
        label="Private addresses that may be reached"
        hint="like 127.0.0.1 or 192.168.7.0/24; all others are refused"
      >
        <input name="allowedPrivate" className="field w-full" defaultValue={settings.allowedPrivate.join(', ')} />
      </Labelled>
      <Labelled label="DNS resolvers" hint="host:port; empty for the system's own">
        <input name="resolvers" className="field w-full" defaultValue={settings.resolvers.join(', ')} />
      </Labelled>
      <label className="flex items-center gap-1.5">
        <input type="checkbox" name="asksEndings" defaultChecked={settings.asksEndings} />
        ask the DNS servers of endings themselves
        <span className="small">a resolver may lie or be behind; without it only resolvers are asked</span>
      </label>
      <Labelled
        label="Pauses of single registries"
        hint="host and ms, one a line; for the others the pause above counts"
      >
        <textarea
          name="paces"
          rows={2}
          className="field w-full resize-y"
          placeholder="rdap.registry.org 2000"
          defaultValue={Object.entries(settings.paces)
            .map(([host, ms]) => `${host} ${ms}`)
            .join('\n')}
        />
      </Labelled>
    </>
  );
}

/** Which count of links counts, and what measuring may cost. */
export function MeasureSettings({ settings, indexes }: { settings: SettingsView; indexes: string[] }) {
  return (
    <>
      <div className="flex gap-6">
        <Labelled label="Count of links to sort by" hint="where sources differ">
          <select name="countRule" className="field w-56" defaultValue={settings.countRule}>
            <option value="together">all links together</option>
            <option value="largest">the largest count</option>
            <option value="newest">the newest source</option>
            {indexes.map((index) => (
              <option key={index} value={`source:${index}`}>
                {index}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled label="Flag sources that differ" hint="by more than this factor">
          <input
            name="countFactor"
            type="number"
            min={1}
            step={0.5}
            className="field w-24"
            defaultValue={settings.countFactor}
          />
        </Labelled>
      </div>
      <div className="flex gap-6">
        <Labelled label="Measuring a day" hint="requests; by hand it goes beyond">
          <input
            name="measureBudget"
            type="number"
            min={0}
            className="field w-32"
            defaultValue={settings.measureBudget}
          />
        </Labelled>
        <Labelled label="At least" hint="referring domains, before costly metrics">
          <input
            name="leastReferring"
            type="number"
            min={0}
            className="field w-24"
            defaultValue={settings.measureGate.leastReferring}
          />
        </Labelled>
        <Labelled label="At most" hint="spam risk">
          <input
            name="mostSpamRisk"
            type="number"
            min={0}
            max={100}
            className="field w-24"
            defaultValue={settings.measureGate.mostSpamRisk}
          />
        </Labelled>
      </div>
    </>
  );
}

/** Registrar and register of trademarks. */
export function ServiceSettings({ settings }: { settings: SettingsView }) {
  return (
    <>
      <Labelled
        label="Registrar"
        hint="address that says whether it would register a domain, docs/registrar.md; empty for none"
      >
        <input name="registrar" className="field w-full" defaultValue={settings.registrar} />
      </Labelled>
      <Labelled
        label="Trademark register"
        hint="address that finds trademarks like a name, docs/mark-register.md; empty for none"
      >
        <input name="markRegister" className="field w-full" defaultValue={settings.markRegister} />
      </Labelled>
    </>
  );
}

/** Where registries, archives and searches are asked. */
export function AddressSettings({ settings }: { settings: SettingsView }) {
  return (
    <>
      <Labelled label="RDAP bootstrap file" hint="address or path, RFC 9224">
        <input name="rdapBootstrap" className="field w-full" defaultValue={settings.rdapBootstrap} />
      </Labelled>
      <Labelled label="Archive" hint="TimeMap address with {url}, RFC 7089; empty for none">
        <input name="archiveTimeMap" className="field w-full" defaultValue={settings.archiveTimeMap} />
      </Labelled>
      <Labelled label="Search" hint="address of its OpenSearch description, one that answers with Atom; empty for none">
        <input name="searchEngine" className="field w-full" defaultValue={settings.searchEngine} />
      </Labelled>
    </>
  );
}
