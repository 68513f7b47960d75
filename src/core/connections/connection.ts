import { z } from 'zod';
import { LIST_FIELDS, type ListField } from '../formats/list-fields';
import { ORDER_KINDS } from '../orders/order';
import { LIST_FIELD_WORDS } from '../wording/list-field-words';
import { filled, placeholdersIn, TEMPLATE_SECRETS, unknownPlaceholder } from './template';

/** What a service that is described can be asked for. */
export const CONNECTION_USES = [
  'registrar',
  'search',
  'marks',
  'listings',
  'figures',
  'shown',
  'directories',
  'mentions',
  'orders',
  'order-state',
] as const;
export type ConnectionUse = (typeof CONNECTION_USES)[number];

/** Whether a use is about orders: a service that takes them, or one that says how they stand. */
export const isOfOrders = (use: ConnectionUse | undefined): use is 'orders' | 'order-state' =>
  use === 'orders' || use === 'order-state';

/** How an answer is written. `feed`: Atom (RFC 4287) or RSS, whose parts need no picking. */
export const ANSWER_FORMATS = ['json', 'csv', 'xml', 'html', 'feed'] as const;
export type AnswerFormat = (typeof ANSWER_FORMATS)[number];

/** What is read of an answer, beside the columns of lists. */
export const OWN_FIELDS = [
  'availability',
  'premium',
  'renewal',
  'url',
  'title',
  'summary',
  'mark',
  'number',
  'owner',
  'classes',
  'status',
  'total',
  'result',
  'reason',
  'order-number',
] as const;
export const ANSWER_FIELDS = [...LIST_FIELDS.filter((field) => field !== 'ignore'), ...OWN_FIELDS];
export type AnswerField = Exclude<ListField, 'ignore'> | (typeof OWN_FIELDS)[number];

/** Words of an answer that say whether a name can be had. */
export const AVAILABILITY = ['available', 'premium', 'reserved', 'taken'] as const;
export type Availability = (typeof AVAILABILITY)[number];

/** Words of an answer that say where an order stands. */
export const RESULTS = ['won', 'leading', 'outbid', 'waiting', 'lost', 'refused'] as const;
export type Result = (typeof RESULTS)[number];

/** Where a field stands: in each entry, once in the whole answer, or nowhere, being always the same. */
export const FieldPlace = z.object({
  in: z.enum(['entry', 'answer', 'fixed']).default('entry'),
  /** A JSON Pointer (RFC 6901), of HTML a selector with `@attribute`; what is fixed as it reads. */
  at: z.string().max(300),
});
export type FieldPlace = z.infer<typeof FieldPlace>;

/** How the next part of an answer is asked for. `page` and `offset`: by the placeholder of that name; `cursor`: by what the answer holds; `link`: at an address that the answer names, or its `Link` header (RFC 8288). */
export const Paging = z.discriminatedUnion('by', [
  z.object({ by: z.literal('none') }),
  z.object({ by: z.literal('page'), from: z.number().int().min(0).max(1).default(1) }),
  z.object({ by: z.literal('offset'), step: z.number().int().min(1).max(100_000) }),
  z.object({ by: z.literal('cursor'), at: z.string().max(300) }),
  z.object({ by: z.literal('link'), at: z.string().max(300) }),
]);
export type Paging = z.infer<typeof Paging>;

const HeaderName = z.string().regex(/^[!#$%&'*+.^_`|~0-9a-z-]{1,80}$/i, 'a header is named like X-Api-Key');
/** Set by the connection itself, or by what carries it. */
const OWN_HEADERS = new Set(['host', 'content-length', 'transfer-encoding', 'connection', 'user-agent', 'cookie']);

/** What is called so is nobody's business, and its value belongs into a field that is not shown. */
const SECRET_NAME = /key|token|secret|passw|authorization|^auth$|signature/i;
const SECRET_PLACE = /\{(key|user|password)\}/;
const WRITE_KEY = 'write {key} here, and what it stands for into its own field: this one is shown and handed on';

/** A service over HTTP as a person describes it: what can be handed on. Of keys it holds only the places. */
export const Description = z
  .object({
    title: z.string().trim().min(1, 'it needs a name').max(80),
    use: z.enum(CONNECTION_USES),
    method: z.enum(['GET', 'POST', 'PUT']).default('GET'),
    /** With placeholders: `https://api.pellgate.example/check?name={domain}`. */
    address: z.string().trim().max(2000),
    headers: z
      .array(
        z.object({
          name: HeaderName.refine((name) => !OWN_HEADERS.has(name.toLowerCase()), 'this header is not yours to set'),
          // a line break would begin another header
          value: z
            .string()
            .max(2000)
            .regex(/^[^\p{Cc}]*$/u, 'a header stands on one line'),
        }),
      )
      .max(20)
      .default([]),
    /** What is sent with a POST or PUT, with placeholders. */
    body: z.string().max(20_000).default(''),
    bodyType: z.enum(['json', 'form', 'xml']).default('json'),
    /** Whether name and password are sent (RFC 7617). */
    login: z.enum(['none', 'basic']).default('none'),
    format: z.enum(ANSWER_FORMATS),
    /** Where the entries stand: a JSON Pointer to an array, or to an object that is the only one, or with `/*` behind it to one whose members are the entries; of HTML a selector. */
    entries: z.string().max(300).default(''),
    fields: z.partialRecord(z.enum(ANSWER_FIELDS), FieldPlace).default({}),
    /** Words of this service beside the usual ones. */
    words: z.partialRecord(z.enum([...AVAILABILITY, ...RESULTS]), z.string().max(300)).default({}),
    /** The venue or registrar that orders go to, as its listings name it. */
    venue: z.string().trim().max(120).default(''),
    /** What of it is ordered by this description. */
    kinds: z.array(z.enum(ORDER_KINDS)).max(ORDER_KINDS.length).default([]),
    /** Of prices that name none, and of what is ordered; empty: none. */
    currency: z
      .string()
      .regex(/^([A-Z]{3})?$/, 'a currency is written like EUR')
      .default(''),
    isMinor: z.boolean().default(false),
    paging: Paging.default({ by: 'none' }),
    perMinute: z.number().int('a whole number').min(1, 'at least one').max(6000, 'at most 6,000').default(30),
    /** Where an answer says that it is an error; each counts where something stands there, or just this. */
    errors: z
      .array(z.object({ at: z.string().min(1).max(300), is: z.string().max(200).default('') }))
      .max(10)
      .default([]),
    /** HTTP statuses that mean that nothing was found. */
    nothing: z.array(z.number().int().min(400).max(499)).max(5).default([]),
  })
  .superRefine((given, context) => {
    const complain = (path: string, message: string) => context.addIssue({ code: 'custom', path: [path], message });
    const { address } = given;
    const probe = filled(address, {}, 'address');
    if (!/^https?:\/\//i.test(address) || !URL.canParse(probe)) complain('address', 'an http address');
    else if (/\{/.test(/^https?:\/\/([^/?#]*)/i.exec(address)?.[1] ?? ''))
      complain('address', 'which server is asked is fixed: no placeholder stands before its path');
    else if (new URL(probe).username !== '' || new URL(probe).password !== '')
      complain('address', 'name and password have fields of their own');
    for (const [path, text] of [
      ['address', address],
      ['body', given.body],
      ...given.headers.map(({ value }) => ['headers', value]),
    ]) {
      const unknown = unknownPlaceholder(text);
      if (unknown !== null) complain(path, `{${unknown}} is no placeholder; there are ${ALL_PLACEHOLDERS}`);
    }
    for (const { name, value } of given.headers)
      if (SECRET_NAME.test(name) && !SECRET_PLACE.test(value)) complain('headers', `${name}: ${WRITE_KEY}`);
    const written = [...address.matchAll(/[?&]([^=&#]+)=([^&#]*)/g)].find(
      ([, name, value]) => SECRET_NAME.test(name) && value !== '' && !value.includes('{'),
    );
    if (written) complain('address', `${written[1]}: ${WRITE_KEY}`);
    const asked = `${address} ${given.method === 'GET' ? '' : given.body} ${given.headers.map((one) => one.value).join(' ')}`;
    const named = placeholdersIn(asked);
    const { needs } = USE_SPECS[given.use];
    if (!needs.some((all) => all.every((one) => named.has(one))) && needs.length > 0)
      complain('address', `it has to ask for something: put ${needs[0].map((one) => `{${one}}`).join(', ')} into it`);
    const isOrder = isOfOrders(given.use);
    if (isOrder && given.venue === '') complain('venue', 'it needs the name of the venue or registrar');
    if (given.use === 'orders' && given.kinds.length === 0) complain('kinds', 'say what is ordered this way');
    if (given.use === 'orders' && given.currency === '') complain('currency', 'say which currency amounts are in');
    if (isOrder && given.paging.by !== 'none') complain('paging', 'an answer about an order has no further parts');
    if (isOrder && given.format === 'feed') complain('format', 'a feed says nothing of an order');
    if (given.paging.by === 'page' && !named.has('page'))
      complain('paging', 'put {page} where the number of the page goes');
    if (given.paging.by === 'offset' && !named.has('offset'))
      complain('paging', 'put {offset} where the first entry is named');
    if (given.paging.by === 'cursor' && !named.has('cursor'))
      complain('paging', 'put {cursor} where the mark of the answer before goes');
    if (given.paging.by === 'link' && given.method !== 'GET')
      complain('paging', 'a next address can only be fetched: choose GET');
  });
export type Description = z.infer<typeof Description>;

const ALL_PLACEHOLDERS =
  '{domain}, {name}, {tld}, {words}, {count}, {page}, {offset}, {cursor}, {order}, {number}, {amount}, {minor}, {currency}, {key}, {user} and {password}';

/** What a person's own connection has beside what can be handed on. */
export const Connection = Description.and(
  z.object({
    id: z.string().regex(/^[a-z0-9-]{1,40}$/),
    isOn: z.boolean().default(true),
    /** Whether orders are only written down, with all that would be sent: so they begin, whoever described it. */
    isDry: z.boolean().default(true),
    /** Sent where `{key}` stands; never shown. */
    key: z.string().max(2000).default(''),
    user: z.string().max(200).default(''),
    /** Never shown. */
    password: z.string().max(500).default(''),
  }),
);
export type Connection = z.infer<typeof Connection>;

export interface UseSpec {
  label: string;
  /** What it is asked. */
  asks: string;
  /** Placeholders, of which one set has to be there; empty: none has to. */
  needs: readonly (readonly string[])[];
  /** What is read of an answer, the ones that it cannot do without first. */
  fields: readonly AnswerField[];
  /** How many of them it cannot do without. */
  wanted: number;
  /** What it is tried with: a domain or words that it is asked about, an order it is asked after; `answer`: one that is written in its documentation, as nothing is sent to try it. */
  tries: 'domain' | 'words' | 'order' | 'answer' | null;
}

const BY_DOMAIN = [['domain'], ['name', 'tld']];
const OF_ORDERS: readonly AnswerField[] = [
  'result',
  'reason',
  'order-number',
  'price',
  'currency',
  'closing',
  'bids',
  'domain',
];
const FOUND: readonly AnswerField[] = ['url', 'title', 'summary', 'total'];

export const USE_SPECS: Record<ConnectionUse, UseSpec> = {
  registrar: {
    label: 'Availability and price of a registrar',
    asks: 'Can this name be registered now, and for how much?',
    needs: BY_DOMAIN,
    fields: ['availability', 'domain', 'price', 'currency', 'premium', 'renewal'],
    wanted: 1,
    tries: 'domain',
  },
  search: {
    label: 'Web search',
    asks: 'Which pages are found for this phrase?',
    needs: [['words']],
    fields: ['url', 'title', 'summary'],
    wanted: 1,
    tries: 'words',
  },
  marks: {
    label: 'Trademarks',
    asks: 'Which trademarks are like these words?',
    needs: [['words'], ['domain'], ['name']],
    fields: ['mark', 'number', 'owner', 'classes', 'status'],
    wanted: 1,
    tries: 'words',
  },
  listings: {
    label: 'Listings of a venue',
    asks: 'What is on offer?',
    needs: [],
    fields: [
      'domain', 'price', 'currency', 'kind', 'closing', 'bids', 'reserve', 'listing-url', 'venue', 'registered', 'expires', 'drop-date',
      'phase', 'tld', 'registrar', 'backlinks', 'referring-domains', 'traffic', 'keywords', 'cpc', 'score', 'language', 'country',
    ],
    wanted: 1,
    tries: null,
  },
  figures: {
    label: 'Backlinks, traffic and keywords',
    asks: 'Which figures do you have of this domain?',
    needs: BY_DOMAIN,
    fields: [
      'referring-domains', 'backlinks', 'traffic', 'keywords', 'position', 'cpc', 'currency', 'score', 'domain', 'first-seen', 'registered',
      'language', 'country',
    ],
    wanted: 0,
    tries: 'domain',
  },
  shown: {
    label: 'Pages that a search still shows',
    asks: 'Which pages of this domain do you show?',
    needs: [...BY_DOMAIN, ['words']],
    fields: FOUND,
    wanted: 0,
    tries: 'domain',
  },
  directories: {
    label: 'Listings in directories',
    asks: 'Is this domain listed, and where?',
    needs: [...BY_DOMAIN, ['words']],
    fields: FOUND,
    wanted: 0,
    tries: 'domain',
  },
  mentions: {
    label: 'Mentions elsewhere',
    asks: 'Which pages elsewhere mention this domain?',
    needs: [...BY_DOMAIN, ['words']],
    fields: FOUND,
    wanted: 0,
    tries: 'domain',
  },
  orders: {
    label: 'Bids and registrations',
    asks: 'Will you take this order?',
    needs: BY_DOMAIN,
    fields: OF_ORDERS,
    wanted: 1,
    tries: 'answer',
  },
  'order-state': {
    label: 'Where an order stands',
    asks: 'How does this order stand?',
    needs: [['order'], ['number'], ...BY_DOMAIN],
    fields: OF_ORDERS,
    wanted: 1,
    tries: 'order',
  },
}; // biome-ignore format: lists of names

const { ignore: _, ...LIST_LABELS } = LIST_FIELD_WORDS;
export const FIELD_LABELS: Record<AnswerField, string> = {
  ...LIST_LABELS,
  availability: 'availability',
  premium: 'whether it is premium',
  renewal: 'price of the renewal',
  url: 'address of the page',
  title: 'title',
  summary: 'summary',
  mark: 'trademark',
  number: 'number in the register',
  owner: 'owner',
  classes: 'classes',
  status: 'status in the register',
  total: 'how many there are in all',
  result: 'result',
  reason: 'reason',
  'order-number': 'number of the order',
};

/** Whether all is picked that its use cannot do without. @returns the first that is missing; null: none. */
export function missingField({
  use,
  fields,
  format,
}: Pick<Description, 'use' | 'fields' | 'format'>): AnswerField | null {
  const spec = USE_SPECS[use];
  if (format === 'feed') return null;
  if (spec.wanted === 0) {
    const any = spec.fields.some((field) => field !== 'domain' && field !== 'currency' && fields[field]);
    return any ? null : spec.fields[0];
  }
  return spec.fields.slice(0, spec.wanted).find((field) => !fields[field]) ?? null;
}

/** The one of its use that is asked: the first that is switched on. */
export function connectionFor(connections: readonly Connection[], use: ConnectionUse): Connection | null {
  return connections.find((one) => one.use === use && one.isOn) ?? null;
}

/** Whether a description wants a key or password from who uses it. */
export function wantsSecret({ address, headers, body, login }: Description): boolean {
  if (login === 'basic') return true;
  const named = placeholdersIn([address, body, ...headers.map(({ value }) => value)].join(' '));
  return TEMPLATE_SECRETS.some((one) => named.has(one));
}

/** Whether it wants a key or password that is not there: never entered, or sealed. */
export function lacksSecret(one: Connection): boolean {
  return wantsSecret(one) && one.key === '' && one.password === '';
}

/** The server that a connection asks, `https://api.pellgate.example`: its key goes to no other. */
export function originOf({ address }: Pick<Description, 'address'>): string {
  const filledIn = filled(address, {}, 'address');
  return URL.canParse(filledIn) ? new URL(filledIn).origin : '';
}

/** How long to pause between two questions to the servers of connections, ms by host. */
export function pausesOf(connections: readonly Connection[]): Record<string, number> {
  return Object.fromEntries(
    connections.filter(({ isOn }) => isOn).map((one) => [new URL(originOf(one)).host, 60_000 / one.perMinute]),
  );
}
