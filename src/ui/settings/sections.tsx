'use client';

import { AmountLine, AreaField, ChoiceField, LineField, NumberField, TickField } from '../forms/field';

/** Currency, rates, and what a registration usually costs. */
export function MoneySettings() {
  return (
    <>
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        <LineField name="currency" label="Your currency" maxLength={3} className="w-28" />
        <AreaField
          name="rates"
          label="Rates"
          hint="what one unit of others is worth in yours; one a line"
          outer="min-w-0 grow"
          rows={3}
          placeholder="GBP 1.15"
        />
      </div>
      <AreaField
        name="registrationPrices"
        label="Usual price of a registration"
        hint="by TLD, * for all others, in your currency; reckoned with where the registrar has not been asked"
        rows={3}
        className="w-56 resize-y"
        placeholder="org 11.50"
      />
    </>
  );
}

/** The time zone that deadlines are in, and reminders. */
export function TimeSettings() {
  return (
    <div className="flex flex-wrap gap-x-6 gap-y-4">
      <LineField name="timeZone" label="Your time zone" hint="for deadlines, like Europe/Vienna" className="w-56" />
      <NumberField name="reminderMinutes" label="Reminders" hint="minutes before a deadline; 0 for none" />
    </div>
  );
}

/** How the crawler names itself, how fast it asks, and what it may use. */
export function CrawlSettings() {
  return (
    <>
      <LineField name="userAgent" label="User agent" hint="how the crawler names itself" />
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        <NumberField name="crawlDelayMs" label="Pause per host" hint="ms between two pages" />
        <NumberField name="registryIntervalMs" label="Pause per registry" hint="ms between two questions" />
      </div>
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        <NumberField name="crawlMemoryMb" label="A crawl ends above" hint="MB of memory" />
        <NumberField name="diskFloorMb" label="and below" hint="MB of free disk" />
      </div>
    </>
  );
}

/** What may be reached, and how names are looked up. */
export function LookupSettings() {
  return (
    <>
      <LineField
        name="allowedPrivate"
        label="Private addresses that may be reached"
        hint="like 127.0.0.1 or 192.168.7.0/24; all others are refused"
      />
      <LineField name="resolvers" label="DNS resolvers" hint="host:port; empty for the system's own" />
      <TickField name="asksEndings" hint="a resolver may lie or be behind; without it only resolvers are asked">
        ask the DNS servers of endings themselves
      </TickField>
      <AreaField
        name="paces"
        label="Pauses of single registries"
        hint="host and ms, one a line; for the others the pause above counts"
        rows={2}
        placeholder="rdap.registry.org 2000"
      />
    </>
  );
}

/** Which count of links counts, and what measuring may cost. */
export function MeasureSettings({ indexes }: { indexes: string[] }) {
  return (
    <>
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        <ChoiceField
          name="countRule"
          label="Count of links to sort by"
          hint="where sources differ"
          className="w-56"
          options={[
            ['together', 'all links together'],
            ['largest', 'the largest count'],
            ['newest', 'the newest source'],
            ...indexes.map((index) => [`source:${index}`, index] as const),
          ]}
        />
        <AmountLine
          name="countFactor"
          label="Flag sources that differ"
          hint="by more than this factor"
          className="w-24"
        />
      </div>
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        <NumberField name="measureBudget" label="Measuring a day" hint="requests; by hand it goes beyond" />
        <NumberField
          name="measureGate.leastReferring"
          label="At least"
          hint="referring domains, before costly metrics"
          className="w-24"
        />
        <NumberField name="measureGate.mostSpamRisk" label="At most" hint="spam risk" className="w-24" />
      </div>
    </>
  );
}

/** Registrar and register of trademarks. */
export function ServiceSettings() {
  return (
    <>
      <LineField
        name="registrar"
        label="Registrar"
        hint="address that says whether it would register a domain, docs/registrar.md; empty for none"
      />
      <LineField
        name="markRegister"
        label="Trademark register"
        hint="address that finds trademarks like a name, docs/mark-register.md; empty for none"
      />
    </>
  );
}

/** Where registries, archives and searches are asked. */
export function AddressSettings() {
  return (
    <>
      <LineField name="rdapBootstrap" label="RDAP bootstrap file" hint="address or path, RFC 9224" />
      <LineField
        name="archiveTimeMap"
        label="Archive"
        hint="address of TimeMaps (RFC 7089) or of an index (CDX), with {url}; empty for none"
      />
      <LineField
        name="archiveCapture"
        label="One capture of an index"
        hint="address with {timestamp} and {url}; empty: captures are counted, not read"
      />
      <LineField
        name="searchEngine"
        label="Search"
        hint="address of its OpenSearch description, one that answers with Atom; empty for none"
      />
    </>
  );
}
