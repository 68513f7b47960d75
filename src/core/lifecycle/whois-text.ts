import { parseDate } from '../formats/values';
import type { RecordOutcome, RegistrationRecord } from './phase';

export interface WhoisAnswer {
  outcome: RecordOutcome;
  record: RegistrationRecord | null;
  /** Host of the server to ask next, where the answer only refers. */
  referral: string | null;
}

type Field = 'registered' | 'expires' | 'changed' | 'registrar' | 'status' | 'nameServer' | 'referral' | 'domain';

/** Labels by field, compared without case, dots and spaces; one table for all shapes of answer. */
const LABELS: [field: Field, label: RegExp][] = [
  ['domain', /^(domain|domainname)$/],
  ['registered', /^(creationdate|created|createdon|registered|registeredon|registrationdate|domainregistered)$/],
  [
    'expires',
    /^(registryexpirydate|registrarregistrationexpirationdate|expirydate|expirationdate|expires|expireson|paidtill|validuntil|expiry)$/,
  ],
  ['changed', /^(updateddate|lastupdated|lastmodified|changed|modified)$/],
  ['registrar', /^(registrar|registrarname|sponsoringregistrar|registrarorganization)$/],
  ['status', /^(domainstatus|status|state|registrationstatus)$/],
  ['nameServer', /^(nameserver|nameservers|nserver|ns|dns)$/],
  ['referral', /^(refer|whoisserver|registrarwhoisserver|whois)$/],
];

const NOT_FOUND =
  /^[%#>\s-]*(no match|not found|no entries found|no data found|domain not found|the queried object does not exist|no object found|nothing found|status:\s*(free|available)|.*\bis (free|available)( for registration)?\b|no such domain)/im;
const REFUSED =
  /(limit exceeded|rate limit|too many (requests|queries)|quota|try again later|access denied|blacklisted|excessive querying)/i;

/**
 * Reads a WHOIS answer (RFC 3912 fixes no format). Understands `Label: value`, `[Label] value` and a label on its own line
 * with indented values below. @returns outcome `failed` when no shape fits: the text is then all there is.
 */
export function readWhois(text: string): WhoisAnswer {
  const body = text.slice(0, 256 * 1024);
  const values = collect(body);
  const first = (field: Field): string | null => values.get(field)?.[0] ?? null;
  const registeredAt = dateOf(first('registered'));
  const expiresAt = dateOf(first('expires'));
  if (registeredAt === null && expiresAt === null && !values.has('registrar')) {
    if (NOT_FOUND.test(body)) return { outcome: 'not-found', record: null, referral: null };
    if (REFUSED.test(body)) return { outcome: 'refused', record: null, referral: null };
    const referral = first('referral');
    if (referral) return { outcome: 'failed', record: null, referral };
    if (!values.has('domain') || !(values.has('status') || values.has('nameServer')))
      return { outcome: 'failed', record: null, referral: null };
  }
  const record: RegistrationRecord = {
    statuses: (values.get('status') ?? [])
      .flatMap((line) => line.replace(/https?:\S+/g, '').split(','))
      .map((s) => s.trim())
      .filter(Boolean),
    registeredAt,
    expiresAt,
    changedAt: dateOf(first('changed')),
    registrar: first('registrar'),
    nameServers: (values.get('nameServer') ?? []).map((line) => line.split(/\s/)[0].toLowerCase().replace(/\.$/, '')),
  };
  return { outcome: 'found', record, referral: null };
}

function collect(body: string): Map<Field, string[]> {
  const values = new Map<Field, string[]>();
  let block: Field | null = null;
  for (const raw of body.split(/\r\n|\r|\n/)) {
    if (/^\s*[%#>]/.test(raw)) continue;
    const indented = /^\s+\S/.test(raw);
    const line = raw.trim();
    if (line === '') {
      block = null;
      continue;
    }
    const pair = /^\[([^\]]+)\]\s*(.*)$/.exec(line) ?? /^([^:]{2,40}?)[.\s]*:(?:\s+(.*))?$/.exec(line);
    const field = pair ? fieldOf(pair[1]) : null;
    if (field) {
      const value = (pair?.[2] ?? '').trim();
      if (value === '') block = field;
      else {
        add(values, field, value);
        block = null;
      }
    } else if (indented && block) add(values, block, line);
    else if (!indented) block = null;
  }
  return values;
}

function add(values: Map<Field, string[]>, field: Field, value: string): void {
  const list = values.get(field);
  if (list) list.push(value);
  else values.set(field, [value]);
}

function fieldOf(label: string): Field | null {
  const word = label.toLowerCase().replace(/[^a-z]/g, '');
  return LABELS.find(([, test]) => test.test(word))?.[0] ?? null;
}

function dateOf(text: string | null): number | null {
  if (text === null) return null;
  return parseDate(text) ?? parseDate(text.split(/\s/)[0]);
}
