import { z } from 'zod';
import * as availability from '../../contracts/availability';
import * as briefs from '../../contracts/briefs';
import * as crawl from '../../contracts/crawl';
import * as domains from '../../contracts/domains';
import * as ideas from '../../contracts/ideas';
import * as jobs from '../../contracts/jobs';
import * as measures from '../../contracts/measures';
import * as orders from '../../contracts/orders';
import * as pageCheck from '../../contracts/page-check';
import * as pool from '../../contracts/pool';
import * as portfolio from '../../contracts/portfolio';
import * as prospecting from '../../contracts/prospecting';
import * as rebuild from '../../contracts/rebuild';
import * as redirects from '../../contracts/redirects';
import * as selling from '../../contracts/selling';
import * as shortlist from '../../contracts/shortlist';
import * as sieves from '../../contracts/sieves';
import * as sources from '../../contracts/sources';
import * as system from '../../contracts/system';
import { Settings } from '../../store/base/config';

interface Operation {
  method: 'get' | 'post' | 'patch' | 'delete';
  path: string;
  summary: string;
  body?: z.ZodType;
  /** A file as the body. */
  file?: boolean;
  query?: Record<string, string>;
  answer?: z.ZodType;
  status?: number;
}

/** Every call there is; a test compares this with the route files. */
export const OPERATIONS: Operation[] = [
  { method: 'get', path: '/health', summary: 'State of web, engine, database and stand-ins' },
  { method: 'get', path: '/openapi.json', summary: 'This description' },
  { method: 'get', path: '/settings', summary: 'Settings', answer: Settings },
  { method: 'patch', path: '/settings', summary: 'Change some settings', body: Settings.partial(), answer: Settings },
  { method: 'get', path: '/events', summary: 'Progress of jobs and changes of the pool, as server-sent events' },
  { method: 'get', path: '/sources', summary: 'All sources', answer: z.object({ sources: z.array(sources.SourceSchema) }) },
  { method: 'get', path: '/sources/{id}', summary: 'One source with its jobs, phases and, for a crawl, its sites', answer: sources.SourceSchema },
  { method: 'get', path: '/sources/{id}/rejects', summary: 'Rows that were set aside, with line and reason, as CSV' },
  { method: 'post', path: '/sources/lists/preview', summary: 'How a list would be read', file: true, query: { upload: 'Look again at a file sent before', delimiter: 'One character', header: '1 or 0', columns: 'Meaning of each column, by commas' }, answer: sources.PreviewSchema },
  { method: 'post', path: '/sources/lists', summary: 'Import a list: JSON that names a previewed upload, or the file itself', body: sources.ListSchema, file: true, query: { name: 'Name of the source, with a file', columns: 'Meaning of each column, by commas', exclude: 'Endings that are out, by commas', check: '1: check and measure afterwards' }, answer: sources.StartedSchema, status: 202 },
  { method: 'post', path: '/uploads', summary: 'Send a file that a later call names', file: true, answer: z.object({ upload: z.string() }), status: 201 },
  { method: 'post', path: '/sources/zones', summary: 'Compare two copies of a zone file: names that are gone, names that moved to parking servers', body: sources.ZonesSchema, answer: sources.StartedSchema, status: 202 },
  { method: 'post', path: '/sources/links', summary: 'Import the export of a link index: the file itself, or JSON that names an upload and what its columns mean', body: sources.LinksSchema, file: true, query: { name: 'Name of the source', asOf: 'Date of its figures' }, answer: sources.StartedSchema, status: 202 },
  { method: 'post', path: '/sources/feeds/preview', summary: 'What a venue hands out: a feed of our kind, or a table and how it would be read', body: sources.FeedLookSchema },
  { method: 'post', path: '/sources/feeds', summary: 'Read a venue, once or again and again', body: sources.FeedSchema, answer: sources.StartedSchema, status: 202 },
  { method: 'post', path: '/sources/{id}/refresh', summary: 'Read a venue again now', answer: z.object({ job: jobs.JobSchema }), status: 202 },
  { method: 'get', path: '/sources/{id}/listings', summary: 'Open offers of a venue and what its readings changed', query: { kind: 'One kind of listing', offset: 'Offers to pass over' } },
  { method: 'post', path: '/sources/{id}/undo', summary: 'Take back an import as a whole', answer: z.object({ job: jobs.JobSchema }), status: 202 },
  { method: 'post', path: '/sources/cuts/preview', summary: 'How a link export would be read', file: true, query: { upload: 'Look again at a file sent before', delimiter: 'One character', header: '1 or 0', columns: 'Meaning of each column, by commas' } },
  { method: 'post', path: '/sources/cuts', summary: 'Cut a link export to outside domains', body: sources.CutSchema, answer: sources.StartedSchema, status: 202 },
  { method: 'get', path: '/watches', summary: 'Folders, addresses and venues that are looked at again and again', answer: z.object({ watches: z.array(sources.WatchViewSchema) }) },
  { method: 'post', path: '/watches', summary: 'Watch a folder or an address for lists', body: sources.WatchSchema, answer: z.object({ watch: sources.WatchViewSchema }), status: 201 },
  { method: 'patch', path: '/watches/{id}', summary: 'Stop or resume watching, or change how often', body: sources.WatchChangeSchema, answer: z.object({ watch: sources.WatchViewSchema }) },
  { method: 'delete', path: '/watches/{id}', summary: 'Forget a watch; what it brought in stays', status: 204 },
  { method: 'post', path: '/watches/{id}/look', summary: 'Look now', status: 202 },
  { method: 'post', path: '/sources/crawls', summary: 'Crawl sites for the domains they link to', body: crawl.CrawlSchema, answer: sources.StartedSchema, status: 202 },
  { method: 'post', path: '/sources/crawls/trials', summary: 'Try seeds before a crawl: a few pages of each, and a forecast', body: crawl.TrialSchema, answer: z.object({ job: jobs.JobSchema }), status: 202 },
  { method: 'get', path: '/sources/{id}/crawl', summary: 'A crawl as it stands: funnel, sites, traps, troubles, samples over time' },
  { method: 'patch', path: '/sources/{id}/crawl', summary: 'Change budgets or drop sites while it runs; go on when it has ended', body: crawl.CrawlChangeSchema, answer: z.object({ job: jobs.JobSchema, act: z.number().int().nullable() }) },
  { method: 'get', path: '/sources/{id}/finds', summary: 'What the switches of a crawl or cut leave out of its finds, and how many each would' },
  { method: 'patch', path: '/sources/{id}/finds', summary: 'Turn the switches that leave domains out of the finds of a crawl or cut', body: crawl.FindSwitchesSchema, status: 202 },
  { method: 'get', path: '/sources/{id}/aside', summary: 'Domains a source named that were set aside, with the reason, as CSV' },
  { method: 'post', path: '/sources/searches', summary: 'Search for phrases, with a gate on what each site is about', body: crawl.SearchSchema, answer: z.object({ job: jobs.JobSchema }), status: 202 },
  { method: 'post', path: '/sources/referrers/preview', summary: 'How a referrer file would be read, and what each cut keeps out', body: crawl.ReferrerLookSchema, file: true },
  { method: 'post', path: '/sources/referrers', summary: 'Take what the cuts leave: into the pool, or as seeds', body: crawl.ReferrersSchema, status: 201 },
  { method: 'post', path: '/pages/check', summary: 'Begin to look at one page and ask each of its outside links', body: pageCheck.PageCheckSchema, answer: z.looseObject({ job: jobs.JobSchema }), status: 202 },
  { method: 'get', path: '/pages/check/{id}', summary: 'How far the look at a page has come, with every link as far as it is known' },
  { method: 'get', path: '/targets', summary: 'Dead pages on living domains; as CSV with every linking page', query: { format: 'csv, else JSON' } },
  { method: 'get', path: '/jobs/{id}/rows', summary: 'What a trial or a search found out so far', answer: z.looseObject({ job: jobs.JobSchema, rows: z.array(z.unknown()) }) },
  { method: 'get', path: '/jobs', summary: 'The last hundred jobs', answer: z.object({ jobs: z.array(jobs.JobSchema) }) },
  { method: 'get', path: '/jobs/{id}', summary: 'One job', answer: jobs.JobSchema },
  { method: 'post', path: '/jobs/{id}/{action}', summary: 'pause, resume or cancel a job', answer: jobs.JobSchema },
  { method: 'post', path: '/checks', summary: 'Check and measure the domains of a source, or some by id or name', body: availability.CheckSchema, answer: z.object({ job: jobs.JobSchema }), status: 202 },
  { method: 'get', path: '/measures', summary: 'What measuring costs, what is measured next and why, and the points of the spam rules' },
  { method: 'post', path: '/measures', summary: 'Take the costly measures of some domains: the past, forwarding, referrers, word marks', body: measures.MeasureSchema, answer: z.object({ job: jobs.JobSchema }), status: 202 },
  { method: 'post', path: '/measures/points', summary: 'Fit the points of the spam rules to your marks (at least 50)', status: 201 },
  { method: 'delete', path: '/measures/points', summary: 'Take the last fit back', status: 204 },
  { method: 'get', path: '/domains/{name}/reading', summary: 'What a name says by itself: words, sayability, spelling, twin, subject, other endings' },
  { method: 'get', path: '/domains/{name}/tables/{table}', summary: 'A table of evidence (referrers, anchors, addresses, captures, checks, history), sorted and searched; as CSV or JSON Lines all of what was found', query: { sort: 'Key of a column', order: 'up or down', filter: 'Words that a row must hold', offset: 'Rows to pass over', limit: 'Rows at most, to 1,000', format: 'json, csv or jsonl' } },
  { method: 'get', path: '/domains/{name}/captures/{at}', summary: 'One capture that was read, with what it shows as plain blocks' },
  { method: 'get', path: '/domains/{name}/similar', summary: 'Names of the pool that are like this one' },
  { method: 'get', path: '/domains/{name}/file', summary: 'The dossier as a self-contained HTML file, or as JSON', query: { format: 'html or json' } },
  { method: 'get', path: '/domains/{name}/notes', summary: 'Notes on a domain' },
  { method: 'post', path: '/domains/{name}/notes', summary: 'Write a note', body: domains.NoteSchema, status: 201 },
  { method: 'delete', path: '/domains/{name}/notes/{id}', summary: 'Take a note away' },
  { method: 'post', path: '/domains/{name}/notes/{id}', summary: 'Give a note back that was taken away' },
  { method: 'post', path: '/domains/{name}/diligence', summary: 'Answer a point of due diligence by hand', body: domains.TickSchema, answer: z.object({ id: z.number() }), status: 201 },
  { method: 'delete', path: '/domains/{name}/diligence/{id}', summary: 'Take an answer back', status: 204 },
  { method: 'get', path: '/compare', summary: 'Up to four domains side by side, with what differs', query: { name: 'A domain; repeatable' } },
  { method: 'post', path: '/domains/{name}/marks', summary: 'Keep what you decided about word marks like the name', body: domains.MarkReviewSchema, status: 201 },
  { method: 'get', path: '/batches', summary: 'Batches of names that were checked' },
  { method: 'post', path: '/batches', summary: 'Check names or addresses in a text', body: availability.BatchSchema, answer: z.looseObject({ id: z.number(), job: jobs.JobSchema }), status: 202 },
  { method: 'get', path: '/batches/{id}', summary: 'How far the names of a batch have come, and when the rest will be through' },
  { method: 'get', path: '/batches/{id}/file', summary: 'The names of a batch with verdict and evidence, streamed', query: { format: 'csv or jsonl' } },
  { method: 'get', path: '/registries', summary: 'Servers with what they bear, what they taught, and when their questions will be through' },
  { method: 'delete', path: '/registries/{server}', summary: 'Forget what a server taught', status: 204 },
  { method: 'post', path: '/domains/{name}/confirm', summary: 'Take the verdict again now, down to the registrar' },
  { method: 'post', path: '/domains/{name}/raise', summary: 'Ask about a domain before all others', status: 202 },
  { method: 'get', path: '/deadlines', summary: 'Deadlines in order of time', query: { scope: 'mine (watched by hand or shortlisted), near (with near misses) or all', kinds: 'closing, price-step, answer, drop, expiry, renewal, re-check, by commas', hours: 'How far ahead' } },
  { method: 'get', path: '/deadlines/calendar', summary: 'Deadlines of what is watched or shortlisted as an iCalendar feed (RFC 5545)' },
  { method: 'post', path: '/clock', summary: 'Move the time of the demo forward', body: system.ClockSchema, answer: z.object({ now: z.number() }) },
  { method: 'post', path: '/pool/query', summary: 'Sift and sort the pool', body: pool.PoolQuerySchema, answer: pool.PoolAnswerSchema },
  { method: 'get', path: '/domains/{name}', summary: 'The dossier of one domain' },
  { method: 'get', path: '/briefs', summary: 'All briefs' },
  { method: 'post', path: '/briefs', summary: 'Add a brief', body: briefs.BriefSchema, status: 201 },
  { method: 'patch', path: '/briefs/{id}', summary: 'Change a brief', body: briefs.BriefSchema.partial() },
  { method: 'delete', path: '/briefs/{id}', summary: 'Delete a brief without a shortlist', status: 204 },
  { method: 'post', path: '/actions', summary: 'Judge, tag, shortlist, measure or exclude few or many domains', body: pool.ActionSchema, answer: pool.ActedSchema, status: 201 },
  { method: 'post', path: '/actions/{id}/undo', summary: 'Give all domains of an action back what they were' },
  { method: 'get', path: '/tags', summary: 'Tags and how many domains have them' },
  { method: 'post', path: '/word-lists', summary: 'Keep a long list of words that conditions name by number', body: pool.WordListSchema, status: 201 },
  { method: 'get', path: '/acts', summary: 'What was changed by hand lately, each with what undoes it' },
  { method: 'post', path: '/acts/{id}/undo', summary: 'Give back what an act changed' },
  { method: 'get', path: '/sieves', summary: 'Kept sieves', answer: z.object({ sieves: z.array(sieves.SieveViewSchema) }) },
  { method: 'post', path: '/sieves', summary: 'Keep a sieve', body: sieves.SieveSchema, status: 201 },
  { method: 'patch', path: '/sieves/{id}', summary: 'Rename a sieve, change what it shows, when it runs and what becomes of what is new', body: sieves.SieveChangeSchema, answer: sieves.SieveViewSchema },
  { method: 'delete', path: '/sieves/{id}', summary: 'Delete a sieve' },
  { method: 'post', path: '/sieves/{id}/run', summary: 'Run a sieve now', answer: z.object({ total: z.number(), fresh: z.number() }) },
  { method: 'post', path: '/sieves/{id}/seen', summary: 'What is new in a sieve has been seen', body: pool.SeenSchema, status: 204 },
  { method: 'get', path: '/sieves/{id}/file', summary: 'A sieve as a file to share' },
  { method: 'post', path: '/sieves/file', summary: 'Keep a sieve from such a file', body: sieves.SieveFileSchema, status: 201 },
  { method: 'get', path: '/sieves/{id}/feed', summary: 'What came new into a sieve, as an Atom feed (RFC 4287)' },
  { method: 'post', path: '/digest', summary: 'Make the mail digest of what is new in kept sieves now' },
  { method: 'get', path: '/sales', summary: 'How many names that were sold are known, and from when' },
  { method: 'post', path: '/sales', summary: 'Take a list of names that were sold: a table with columns for domain, price and date', file: true, query: { name: 'What the list is called' }, status: 201 },
  { method: 'post', path: '/rankings', summary: 'Take a list of phrases that domains of the pool are found by: domain, phrase, position, searches, price of a visit', file: true, query: { name: 'What the list is called' }, status: 201 },
  { method: 'get', path: '/plan', summary: 'Which of the shortlist to go for, up to what and in which order, and what comes of winning and losing', query: { brief: 'Id of the brief; else the current one', risk: 'cautious, even or bold; else as the brief says' } },
  { method: 'get', path: '/orders', summary: 'Orders that are open, those that ended last, and the log of every act', query: { brief: 'Id of the brief; else all' } },
  { method: 'post', path: '/orders', summary: 'Give an order: a bid, a purchase, an offer, a backorder or a registration; sent once', body: orders.OrderSchema, status: 201 },
  { method: 'get', path: '/orders/terms', summary: 'All ways to have a domain, on the terms of this moment', query: { name: 'The domain', brief: 'Id of the brief; else the current one' } },
  { method: 'get', path: '/orders/{id}', summary: 'One order with its log' },
  { method: 'post', path: '/orders/{id}/withdraw', summary: 'Take an order back, where it is not binding' },
  { method: 'post', path: '/orders/{id}/look', summary: 'Ask the venue at once where an order stands' },
  { method: 'post', path: '/orders/{id}/outcome', summary: 'What came of an order that was done by hand', body: orders.OutcomeSchema },
  { method: 'get', path: '/ledger', summary: 'Accounts of a brief in double entry, and what its limits leave', query: { brief: 'Id of the brief; else the current one' } },
  { method: 'get', path: '/backups', summary: 'Copies of the data folder' },
  { method: 'post', path: '/backups', summary: 'Copy the data folder while the product runs', status: 202 },
  { method: 'post', path: '/backups/{name}/restore', summary: 'Put a copy in place of what is there now, which is kept as a copy itself' },
  { method: 'get', path: '/briefs/{id}/file', summary: 'A brief with its sieves, shortlist and notes as one file' },
  { method: 'post', path: '/briefs/file', summary: 'Take a brief in that was exported elsewhere', body: briefs.BriefFileSchema, status: 201 },
  { method: 'get', path: '/learning', summary: 'Outcomes held against what was estimated, and what follows for the settings' },
  { method: 'get', path: '/own-pages', summary: 'Where own pages are known from' },
  { method: 'post', path: '/own-pages', summary: 'Take own pages: a sitemap, a table with url and title, or addresses; or with site what a crawl has read', file: true, query: { name: 'What the list is called', site: 'A site that was crawled' }, status: 201 },
  { method: 'get', path: '/prospects', summary: 'The work list: pages that link to dead targets, with what is next and a letter to each' },
  { method: 'post', path: '/prospects', summary: 'Put pages that link to a target on the list, and choose the own page that stands in', body: prospecting.ProspectsSchema },
  { method: 'patch', path: '/prospects', summary: 'Change where a page stands, its contact or note; or the page that stands in', body: prospecting.ProspectChangeSchema },
  { method: 'post', path: '/prospects/look', summary: 'Fetch a page of the list again: does it still link to what is dead?', body: prospecting.ProspectLookSchema },
  { method: 'get', path: '/resales', summary: 'What is offered for sale now, with who asked' },
  { method: 'post', path: '/resales', summary: 'Offer an owned domain, with a text of evidenced sentences', body: selling.ResaleSchema },
  { method: 'get', path: '/resales/{id}', summary: 'A sale with who asked, what to answer, and what was done' },
  { method: 'post', path: '/resales/{id}', summary: 'Ask the venue at once how it stands' },
  { method: 'delete', path: '/resales/{id}', summary: 'Take it off sale' },
  { method: 'post', path: '/resales/{id}/answers', summary: 'Answer who asked: accept, ask for more, decline', body: selling.AnswerSchema },
  { method: 'post', path: '/resales/{id}/inquiries', summary: 'Note by hand that somebody asked', body: selling.InquirySchema },
  { method: 'post', path: '/resales/{id}/sold', summary: 'Say by hand that it is sold', body: selling.SoldSchema },
  { method: 'post', path: '/domains/{name}/redirects/log', summary: 'Take the access log of the server that sends old addresses on', query: { name: 'of the file; one of the same name is replaced' } },
  { method: 'get', path: '/domains/{name}/rebuild', summary: 'What to bring back of a site: pages by what they carry, subjects, former outline, checklist' },
  { method: 'patch', path: '/domains/{name}/rebuild', summary: 'Decide on steps of the checklist, or add one; null takes it back', body: rebuild.StepChangesSchema },
  { method: 'get', path: '/domains/{name}/rebuild/file', summary: 'The plan of a rebuild as Markdown' },
  { method: 'get', path: '/domains/{name}/redirects', summary: 'Where old addresses could move, what is decided, and what that carries' },
  { method: 'patch', path: '/domains/{name}/redirects', summary: 'Decide where old addresses move', body: redirects.RuleChangesSchema },
  { method: 'get', path: '/domains/{name}/redirects/file', summary: 'Decided rules as a file', query: { format: 'csv, nginx, apache-map, apache-queries or apache-host' } },
  { method: 'get', path: '/holdings', summary: 'What is owned, with cost and renewal' },
  { method: 'post', path: '/holdings', summary: 'Take a list of what one owns already', file: true, status: 201 },
  { method: 'get', path: '/holdings/profit', summary: 'Profit and loss of what is owned, every sum with its entries', query: { by: 'domain, brief, venue or year', format: 'json, csv or xlsx' } },
  { method: 'post', path: '/holdings/{name}/entries', summary: 'Enter what a domain cost or brought', body: portfolio.EntrySchema, status: 201 },
  { method: 'patch', path: '/holdings/{name}/entries', summary: 'Take an entry back, or let it stand again', body: portfolio.EntryUndoSchema },
  { method: 'patch', path: '/holdings/{name}', summary: 'Change renewal or note of what is owned', body: portfolio.HoldingChangeSchema },
  { method: 'get', path: '/ideas', summary: 'Patterns that were run for a brief', query: { brief: 'Id of the brief; else the current one' } },
  { method: 'post', path: '/ideas', summary: 'Make names from a pattern of slots, judge them and keep the best', body: ideas.IdeasSchema, status: 202 },
  { method: 'get', path: '/ideas/{id}', summary: 'The best of a run, with what is known of each ending', query: { offset: 'Rows to leave out', limit: 'Rows, at most 500' } },
  { method: 'post', path: '/ideas/places', summary: 'Take a table of places that names may say: place, people, growth', file: true, query: { name: 'What the table is called' }, status: 201 },
  { method: 'get', path: '/shortlist', summary: 'The shortlist of a brief', query: { brief: 'Id of the brief; else the current one' } },
  { method: 'post', path: '/shortlist', summary: 'Shortlist domains', body: shortlist.ShortlistAddSchema, status: 201 },
  { method: 'patch', path: '/shortlist/{name}', summary: 'Change stage, maximum bid or note', body: shortlist.ShortlistChangeSchema },
  { method: 'delete', path: '/shortlist/{name}', summary: 'Take a domain off', query: { brief: 'Id of the brief' } },
  { method: 'get', path: '/export', summary: 'Rows of a pool view or of the shortlist, streamed', query: { what: 'pool or shortlist', format: 'csv, tsv or jsonl', c: 'A condition, as in the address of the pool; repeatable', sort: 'fact:up or fact:down, several by commas', brief: 'Id of the brief, for the shortlist' } },
  { method: 'post', path: '/export', summary: 'Rows of the selected domains, by a form with format, ids or a view with exceptions', status: 200 },
]; // biome-ignore format: one call a line

const jsonSchema = (schema: z.ZodType, io: 'input' | 'output') =>
  z.toJSONSchema(schema, { io, unrepresentable: 'any' });

/** The interface as OpenAPI 3.1, made from the schemas that check the requests. */
export function openApi(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const operation of OPERATIONS) {
    const inPath = [...operation.path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    }));
    const inQuery = Object.entries(operation.query ?? {}).map(([name, description]) => ({
      name,
      in: 'query',
      description,
      schema: { type: 'string' },
    }));
    const content: Record<string, object> = {};
    if (operation.body) content['application/json'] = { schema: jsonSchema(operation.body, 'input') };
    if (operation.file) {
      content['application/octet-stream'] = { schema: { type: 'string', format: 'binary' } };
      content['multipart/form-data'] = {
        schema: { type: 'object', properties: { file: { type: 'string', format: 'binary' } } },
      };
    }
    paths[operation.path] ??= {};
    paths[operation.path][operation.method] = {
      summary: operation.summary,
      parameters: [...inPath, ...inQuery],
      ...(Object.keys(content).length > 0 ? { requestBody: { content } } : {}),
      responses: {
        [operation.status ?? 200]: {
          description: operation.summary,
          ...(operation.answer
            ? { content: { 'application/json': { schema: jsonSchema(operation.answer, 'output') } } }
            : {}),
        },
        default: {
          description: 'What was wrong (RFC 9457)',
          content: { 'application/problem+json': { schema: jsonSchema(system.ProblemSchema, 'output') } },
        },
      },
    };
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Jam Ladle', version: '1', description: 'All that the screens do can be scripted.' },
    servers: [{ url: '/api/v1' }],
    paths,
  };
}
