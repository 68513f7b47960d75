// `npm run soak` runs it: calls of every route that the description of the interface has, right ones and odd ones, against the demo. What breaks
// (500), hangs, or answers something else than it describes is told, with the call and the seed that make it again.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc, { type Arbitrary } from 'fast-check';
import { Product } from '../product';
import { copyState, prepareStates } from '../states';
import { type JsonSchema, odd, type Schemas, valuesOf } from './arbitrary';

const CALLS = Number(process.env.FUZZ_CALLS ?? 20_000);
const SEED = Number(process.env.FUZZ_SEED ?? Date.now() % 2 ** 31);
const AT_ONCE = 4;
const PATIENCE_MS = 60_000;
const PORT = 4385;
/** They would move the clock, end the engine, or fill the disk with copies. */
const LEFT_OUT = new Set(['POST /clock', 'POST /backups/{name}/restore', 'POST /backups']);
/** Nobody outside this machine is to be asked: who is asked stays what the demo says. */
const KEPT_SETTINGS = [
  'resolvers', 'rdapBootstrap', 'allowedPrivate', 'registrar', 'searchEngine', 'markRegister', 'archiveTimeMap', 'archiveCapture', 'smtpUrl', 'accounts', 'copiesKept',
  'connections', 'webhookUrl',
]; // biome-ignore format: a list

interface Parameter {
  name: string;
  in: 'path' | 'query';
  schema?: JsonSchema;
}
interface Operation {
  parameters?: Parameter[];
  requestBody?: { content: Record<string, { schema?: JsonSchema }> };
}
interface Description {
  paths: Record<string, Record<string, Operation>>;
  components?: { schemas?: Schemas };
}
interface Call {
  operation: string;
  method: string;
  path: string;
  headers: Record<string, string>;
  body: string | undefined;
}

const id = fc.oneof(
  { weight: 6, arbitrary: fc.integer({ min: 1, max: 40 }).map(String) },
  { weight: 1, arbitrary: odd },
);
const domain = fc.oneof(
  { weight: 6, arbitrary: fc.constantFrom('ossenmerebeeclub.org', 'merrowvalegazette.com', 'nobodyhasit.org') },
  { weight: 1, arbitrary: odd },
);

function callsOf(operation: string, { parameters = [], requestBody }: Operation, schemas: Schemas): Arbitrary<Call> {
  const [method, template] = operation.split(' ');
  const inPath = [...template.matchAll(/\{(\w+)\}/g)].map(([, part]) => part);
  const queries = parameters.filter((one) => one.in === 'query');
  const content = Object.entries(requestBody?.content ?? {});
  const json = content.find(([type]) => type === 'application/json')?.[1].schema;
  const bodies: Arbitrary<[type: string, text: string]>[] = [];
  if (json)
    bodies.push(
      valuesOf(json, schemas).map((value) => [
        'application/json',
        JSON.stringify(withoutOutside(operation, value)) ?? 'null',
      ]),
    );
  if (content.some(([type]) => type !== 'application/json'))
    bodies.push(odd.map((text) => ['application/octet-stream', `domain,price\n${text}\ntarnhives.org,12`]));
  if (requestBody) bodies.push(odd.map((text) => ['application/json', text]));
  return fc
    .record({
      parts: fc.tuple(...inPath.map((part) => (part === 'name' ? domain : id))),
      query: fc.array(
        queries.length === 0
          ? fc.tuple(odd, odd)
          : fc
              .constantFrom(...queries)
              .chain((one) =>
                fc.tuple(fc.constant(one.name), fc.oneof(odd, id, valuesOf(one.schema ?? {}, schemas).map(String))),
              ),
        { maxLength: 4 },
      ),
      body: bodies.length === 0 ? fc.constant(null) : fc.oneof(...bodies),
    })
    .map(({ parts, query, body }) => {
      const path = inPath.reduce(
        (filled, part, n) => filled.replace(`{${part}}`, encodeURIComponent(wellFormed(parts[n]))),
        template,
      );
      const search = new URLSearchParams(query.map(([key, value]) => [wellFormed(key), wellFormed(value)])).toString();
      return {
        operation,
        method,
        path: `${path}${search ? `?${search}` : ''}`,
        headers: headersOf(body?.[0]),
        body: body?.[1],
      };
    });
}

const headersOf = (type: string | undefined): Record<string, string> => (type ? { 'content-type': type } : {});

/** Half a surrogate pair cannot be sent. */
const wellFormed = (text: string) => Buffer.from(text).toString();

function withoutOutside(operation: string, value: unknown): unknown {
  if (operation !== 'PATCH /settings' || typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).filter(([field]) => !KEPT_SETTINGS.includes(field)));
}

/** @returns what is wrong with the answer; null: nothing. */
async function complaintOf(url: string, { method, path, headers, body }: Call): Promise<string | null> {
  const ending = new AbortController();
  const timer = setTimeout(() => ending.abort(), PATIENCE_MS);
  try {
    const answer = await fetch(`${url}/api/v1${path}`, { method, headers, body, signal: ending.signal });
    if (answer.headers.get('content-type')?.startsWith('text/event-stream')) {
      await answer.body?.cancel();
      return null;
    }
    const text = await answer.text();
    if (answer.status === 500) return `500: ${text.slice(0, 400)}`;
    // an odd part of a path can lead to another route, which does not know the method
    if (answer.status >= 400 && answer.status !== 405 && !/"code":"/.test(text))
      return `${answer.status} without a code: ${text.slice(0, 200)}`;
    return null;
  } catch (error) {
    return ending.signal.aborted
      ? `no answer within ${PATIENCE_MS / 1000} s`
      : `it broke off: ${(error as Error).message}`;
  } finally {
    clearTimeout(timer);
  }
}

await prepareStates(() => undefined);
process.env.JAM_LADLE_CHECKS_ANSWERS = '1';
const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-fuzz-'));
copyState('listed', folder);
const product = await Product.start(folder, PORT);
const wrong = new Map<string, { complaint: string; call: Call; times: number }>();
let [made, answered] = [0, 0];
try {
  const { paths, components } = (await product.call('/openapi.json')) as Description;
  const operations = Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(
      ([method, operation]) => [`${method.toUpperCase()} ${path.replace(/^\/api\/v1/, '')}`, operation] as const,
    ),
  );
  const kinds = operations
    .filter(([operation]) => !LEFT_OUT.has(operation))
    .map(([name, one]) => callsOf(name, one, components?.schemas ?? {}));
  const each = Math.ceil(CALLS / kinds.length);
  // of each kind as many, mixed as a careless script would
  const calls = kinds
    .flatMap((kind, n) => fc.sample(kind, { numRuns: each, seed: SEED + n }))
    .sort((a, b) => hash(a.path) - hash(b.path));
  console.log(`${calls.length} calls of ${kinds.length} routes, seed ${SEED}`);
  const one = async () => {
    for (let call = calls.pop(); call; call = calls.pop()) {
      made++;
      const complaint = await complaintOf(product.url, call);
      if (complaint === null) answered++;
      else {
        const key = `${call.operation} ${complaint.slice(0, 80)}`;
        const before = wrong.get(key);
        wrong.set(key, { complaint, call: before?.call ?? call, times: (before?.times ?? 0) + 1 });
      }
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, one));
  const health = await product.call('/health');
  if (!health.healthy) throw new Error(`the product is not well afterwards: ${JSON.stringify(health)}`);
} finally {
  await product.stop();
  rmSync(folder, { recursive: true, force: true });
}
for (const { complaint, call, times } of wrong.values())
  console.log(
    `${times} times ${call.method} ${call.path.slice(0, 300)} ${call.body?.slice(0, 300) ?? ''}\n  ${complaint}`,
  );
console.log(`${answered} of ${made} calls were answered as they should`);
process.exit(wrong.size > 0 ? 1 : 0);

/** Mixes the same way for the same calls. */
function hash(text: string): number {
  let sum = SEED;
  for (let n = 0; n < text.length; n++) sum = Math.imul(sum ^ text.charCodeAt(n), 16_777_619);
  return sum >>> 0;
}
