'use client';

import { useFormContext } from 'react-hook-form';
import { ABILITY_SPECS, type Ability } from '../../core/setup/abilities';
import { AreaField, LineField, TickField } from '../forms/field';
import Link from '../link';

/** A public aggregator of web archives that speaks Memento; it is asked only when somebody takes it. */
const PUBLIC_ARCHIVES = 'http://timetravel.mementoweb.org/timemap/link/{url}';

const Inside = () => (
  <LineField
    name="allowedPrivate"
    label="Private addresses that may be reached"
    place="small"
    below="for a service in your own network, like 127.0.0.1 or 192.168.7.0/24; all others are refused"
    className="w-80 max-w-full"
  />
);

/** The settings of one ability; those of services that may stand inside a network say which addresses in it may be reached. */
export function AbilityFields({ ability }: { ability: Ability }) {
  const isSetHere = ABILITY_SPECS[ability].fields.includes('allowedPrivate') && ability !== 'accounts';
  return (
    <>
      {fieldsOf(ability)}
      {isSetHere && <Inside />}
    </>
  );
}

function fieldsOf(ability: Ability) {
  switch (ability) {
    case 'dns':
      return (
        <>
          <LineField name="resolvers" label="DNS resolvers" hint="host:port; empty for those of this machine" />
          <TickField name="asksEndings" hint="a resolver may lie or be behind">
            ask the DNS servers of endings themselves
          </TickField>
        </>
      );
    case 'records':
      return <LineField name="rdapBootstrap" label="RDAP bootstrap file" hint="address or path, RFC 9224" />;
    case 'history':
      return (
        <>
          <LineField
            name="archiveTimeMap"
            label="Archive"
            hint="address of TimeMaps (RFC 7089) or of an index (CDX), with {url}"
          />
          <Suggestion field="archiveTimeMap" value={PUBLIC_ARCHIVES}>
            Fill in a public one that asks several archives
          </Suggestion>
          <LineField
            name="archiveCapture"
            label="One capture"
            place="small"
            below="for an index: the address that hands one out, with {timestamp} and {url}; TimeMaps name it themselves"
          />
          <LineField
            name="warcPath"
            label="Files of a web archive"
            hint="a WARC file on this machine, or a folder of them"
          />
        </>
      );
    case 'registrar':
      return <LineField name="registrar" label="Registrar" hint="its address, docs/registrar.md" />;
    case 'accounts':
      return (
        <p>
          Accounts, their keys and the dry run stand in{' '}
          <Link className="set" href="/settings">
            Settings
          </Link>
          . Trying them asks each for the terms of a domain; nothing is ordered.
        </p>
      );
    case 'marks':
      return <LineField name="markRegister" label="Trademark register" hint="its address, docs/mark-register.md" />;
    case 'search':
      return (
        <>
          <LineField name="searchEngine" label="Search" hint="address of its OpenSearch description" />
          <LineField
            name="searchPage"
            label="Its page"
            place="small"
            below="opened in your browser for what only you can look up, with {words} where the question goes"
          />
        </>
      );
    case 'mail':
      return (
        <>
          <LineField name="smtpUrl" label="Mail server" hint="smtp://user@host:port, or smtps://" />
          <LineField
            name="smtpPassword"
            label="Password"
            hint="empty: the one that is kept"
            type="password"
            autoComplete="off"
            className="w-56"
          />
          <div className="flex flex-wrap gap-4">
            <LineField name="digestFrom" label="From" className="w-64 max-w-full" />
            <LineField name="digestTo" label="To" className="w-64 max-w-full" />
            <LineField
              name="digestMinute"
              label="Digest every day at"
              hint="UTC; empty for none"
              type="time"
              className="w-28"
            />
          </div>
        </>
      );
    case 'webhook':
      return (
        <>
          <LineField name="webhookUrl" label="Webhook" hint="its address; what is told stands in Settings" />
          <LineField
            name="webhookSecret"
            label="Secret"
            hint="empty: the one that is kept"
            type="password"
            autoComplete="off"
            className="w-56"
          />
        </>
      );
    case 'currency':
      return (
        <>
          <LineField name="currency" label="Your currency" maxLength={3} className="w-20" />
          <AreaField
            name="rates"
            label="Rates"
            hint="what one unit of others is worth in yours, one a line"
            rows={5}
            placeholder="GBP 1.15"
            className="w-56 resize-y"
          />
        </>
      );
  }
}

function Suggestion({ field, value, children }: { field: string; value: string; children: string }) {
  const { setValue } = useFormContext();
  return (
    <button
      type="button"
      className="set self-start text-small"
      title={value}
      onClick={() => setValue(field, value, { shouldDirty: true })}
    >
      {children}
    </button>
  );
}
