// Work that goes on in the demo: kept sieves with new finds, shortlists with worths, running bids, what was bought, a few domains of one's
// own, names that were asked about, ideas. Each step looks for what it does before it does it, since it may have been broken off.
const BATCH = 'Names for the guide';

/** In euros: what the club of the tale may be worth to somebody who brings its site back. */
const TALES = [
  { name: 'ossenmerebeeclub.org', stage: 'wanted', worth: [220, 610], note: 'nineteen years a club; honest links' },
  { name: 'thornabeckhoney.com', stage: 'to inspect', worth: [180, 520], note: '' },
  { name: 'gantrymoorbeediary.net', stage: 'to inspect', worth: [60, 190], note: 'changed its language in 2021' },
  { name: 'cradlewickhivecraft.com', stage: 'to inspect', worth: null, note: 'half its links sell something' },
  { name: 'jessambyhivedays.com', stage: 'to act on', worth: [40, 160], note: '' },
];

const OWN = [
  'domain,bought,cost,currency,renews,renewal,registrar',
  'pellgatekeepers.org,2025-02-11,140,EUR,2027-02-11,12,Coombe Names',
  'wexcombeswarmline.net,2024-12-05,60,EUR,2026-12-05,13,Coombe Names',
  'hollinwickprooflab.com,2025-06-20,310,EUR,2027-06-20,12,Coombe Names',
  'dapplecombeorchardpress.com,2023-09-14,95,EUR,2026-12-14,12,Coombe Names',
].join('\n');

const ASKED = [
  'tarnhivesandhoney.org',
  'ossenmereskepyard.com',
  'ossenmereskepyard.org',
  'merrowvalehivehouse.net',
  'lathergillbeemuseum.org',
  'fennimoorbeeschool.co.uk',
  'vennacrehoneydays.com',
].join('\n');

const IDEAS = {
  slots: [
    { title: 'places', words: ['ossenmere', 'tarnwick', 'vennacre', 'pellgate', 'umberley'] },
    { title: 'trade', words: ['hive', 'honey', 'bee', 'comb', 'skep', 'apiary'] },
    { title: 'kind', words: ['club', 'days', 'yard', 'guide', 'school'], isOptional: true },
  ],
  endings: ['com', 'org', 'net'],
};

const SIEVES = [
  {
    name: 'Bees with a past',
    view: 'c=phase:free,pending-delete,redemption&c=name:wordish=bee,hive,honey,apiary,swarm,skep&c=contentYears:3..&c=spamRisk:..49?&sort=trust:down',
  },
  {
    name: 'Letterpress, linked to',
    view: 'c=phase:free,pending-delete,redemption&c=name:wordish=press,type,ink,letterpress&c=effective:8..&c=spamRisk:..49?&sort=strength:down',
  },
];

/** What was answered with a refusal is let be; what broke off is taken again. */
function unlessRefused(error) {
  if (error.status === undefined) throw error;
}

/** @param tools how the product is asked: `call` as it is, `post` with a body, `own` with a file. */
export function workOf({ call, post, own }) {
  const briefNamed = async (name) => (await call('/briefs')).briefs.find((brief) => brief.name === name);
  const offered = async (kind, many, words) => {
    const { rows } = await post('/pool/query', {
      parts: [
        { type: 'choice', fact: 'listing', values: [kind] },
        { type: 'range', fact: 'closing', min: 6, max: null, keepUnknown: true },
        ...(words ? [{ type: 'text', fact: 'name', mode: 'contains', values: words, not: false }] : []),
      ],
      sorts: [{ fact: 'strength', descending: true }],
      limit: many,
    });
    return rows.map(({ name }) => name);
  };
  /** Takes what similar names sold for as the worth of what has none yet, of every other one somewhat more. */
  const worthsBySales = async (briefId) => {
    const { entries } = await call(`/plan?brief=${briefId}`);
    for (const [n, { name, resale, worthLowMinor }] of entries.entries()) {
      if (!resale || worthLowMinor !== null) continue;
      const more = n % 2 === 0 ? 1 : 1.5;
      const worth = (minor) => Math.round((minor * more) / 100) * 100;
      const body = { briefId, worthLowMinor: worth(resale.lowMinor), worthHighMinor: worth(resale.highMinor) };
      await post(`/shortlist/${name}`, body, 'PATCH');
    }
  };
  /** Gives an order once, whatever was broken off. */
  const order = async (briefId, name, kind, most) => {
    const { ways } = await call(`/orders/terms?name=${name}&brief=${briefId}`);
    const way = ways.find((one) => one.kind === kind && one.refusal === null);
    if (!way) return;
    const amountMinor = Math.max(way.leastMinor ?? 0, way.priceMinor ?? 0, most ?? 0);
    const body = { name, briefId, venue: way.venue, kind, amountMinor, clientKey: `first-steps-${kind}-${name}` };
    // a lot may have closed, or a card may be refused: the rest goes on
    await post('/orders', body).catch(unlessRefused);
  };
  return {
    sieves: async () => {
      const { sieves } = await call('/sieves');
      for (const sieve of SIEVES) {
        if (sieves.some(({ name }) => name === sieve.name)) continue;
        await post('/sieves', sieve);
      }
      for (const { id, name, lastAt } of (await call('/sieves')).sieves) {
        if (!SIEVES.some((sieve) => sieve.name === name)) continue;
        await post(`/sieves/${id}`, { runs: 'daily', inDigest: true }, 'PATCH');
        // what is there before anything was read closely is no news
        if (lastAt === null) await post(`/sieves/${id}/run`, {});
      }
    },
    finds: async () => {
      for (const { id, name } of (await call('/sieves')).sieves)
        if (SIEVES.some((sieve) => sieve.name === name)) await post(`/sieves/${id}/run`, {});
    },
    shortlists: async () => {
      const guide = await briefNamed('Beekeeping guide');
      const press = await briefNamed('Letterpress names');
      const lots = [
        ...(await offered('auction', 4, ['bee', 'hive', 'honey'])),
        ...(await offered('expired-auction', 2, ['bee', 'hive', 'honey'])),
        ...(await offered('backorder', 2)),
        ...(await offered('buy-now', 1, ['bee', 'hive', 'honey'])),
      ];
      await post('/shortlist', { briefId: guide.id, names: [...TALES.map(({ name }) => name), ...lots] });
      for (const { name, stage, worth, note } of TALES) {
        const said = worth && { worthLowMinor: worth[0] * 100, worthHighMinor: worth[1] * 100 };
        await post(`/shortlist/${name}`, { briefId: guide.id, stage, note, ...said }, 'PATCH');
      }
      const names = [
        ...(await offered('auction', 6, ['press', 'type', 'ink', 'print'])),
        ...(await offered('falling', 2)),
        ...(await offered('buy-now', 2, ['press', 'type', 'ink', 'print'])),
      ];
      await post('/shortlist', { briefId: press.id, names });
      await worthsBySales(guide.id);
      await worthsBySales(press.id);
    },
    orders: async () => {
      const guide = await briefNamed('Beekeeping guide');
      const press = await briefNamed('Letterpress names');
      const bids = async ({ id }, many) => {
        const { entries, bids: planned } = await call(`/plan?brief=${id}`);
        const mostOf = new Map(planned.map((bid) => [bid.id, bid.bidMinor]));
        const onLots = entries.filter(({ ways, way }) => way !== null && ways[way].kind === 'bid').slice(0, many);
        // every other one only as much as is asked: somebody else will go higher
        for (const [n, entry] of onLots.entries())
          await order(id, entry.name, 'bid', n % 2 === 0 ? (mostOf.get(entry.id) ?? 0) : 0);
      };
      await bids(guide, 3);
      await bids(press, 3);
      const [cheap] = await offered('buy-now', 1, ['press', 'type', 'ink', 'print']);
      if (cheap) await order(press.id, cheap, 'buy');
      await post('/domains/jessambyhivedays.com/confirm', {}).catch(unlessRefused);
      await order(guide.id, 'jessambyhivedays.com', 'register');
      await post('/actions', { act: { kind: 'watch' }, which: { names: TALES.map(({ name }) => name) } });
    },
    own: () => own('/holdings', OWN),
    asked: async () => {
      const { sources } = await call('/sources');
      if (!sources.some(({ name }) => name === BATCH))
        await post('/batches', { text: ASKED, name: BATCH, depth: 'record' });
    },
    ideas: async () => {
      const { runs } = await call('/ideas');
      const guide = await briefNamed('Beekeeping guide');
      if (runs.length === 0) await post('/ideas', { briefId: guide.id, pattern: IDEAS });
    },
  };
}
