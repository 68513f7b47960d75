import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { z } from 'zod';
import type { EngineHealth } from '../contracts/engine';
import { ENGINE_CALLS, type EnginePath, isEnginePath } from '../contracts/engine-calls';
import { issuesOf } from '../contracts/issues';
import { REFUSALS, Refusal, refusalOf } from '../core/refusal';
import { actingAs } from '../core/work/actor';
import { YOU } from '../core/work/you';
import { toldByStore } from '../store/base/refusals';
import { fileCalls } from './calls/files';
import { jobCalls } from './calls/jobs';
import { nameCalls } from './calls/names';
import { orderCalls } from './calls/orders';
import { announcePool, type EngineParts, type Handlers } from './calls/parts';
import { poolCalls } from './calls/pool';
import { systemCalls } from './calls/system';
import { Valuer } from './measures/worth';
import type { EngineEvent } from './protocol';
import { countQuestion } from './runner/way';

const MAX_BODY_BYTES = 16 * 1024 * 1024;
const EVENT_PAUSE_MS = 200;

/** The engine's own interface: JSON over loopback, for the web process only, which knows the token. */
export class EngineServer {
  private readonly server: Server;
  private readonly listeners = new Set<ServerResponse>();
  /** Latest event of each kind, sent at most every EVENT_PAUSE_MS. */
  private readonly waiting = new Map<string, EngineEvent>();
  private readonly parts: EngineParts;
  private readonly handlers: Handlers<EnginePath>;
  state: EngineHealth['state'] = 'starting';
  /** What was found damaged at the start and made anew, in words. */
  mended: string | null = null;
  /** What ends the engine, so that it starts again with a copy in place. */
  onRestore: (() => void) | null = null;

  constructor(
    given: Omit<EngineParts, 'valuer' | 'startedAt' | 'state' | 'mended' | 'announce' | 'end'>,
    private readonly token: string,
  ) {
    this.parts = {
      ...given,
      valuer: new Valuer(given.store),
      startedAt: Date.now(),
      state: () => this.state,
      mended: () => this.mended,
      announce: (key, event) => this.announce(key, event),
      end: () => this.onRestore?.(),
    };
    this.handlers = {
      ...systemCalls(this.parts),
      ...poolCalls(this.parts),
      ...fileCalls(this.parts),
      ...orderCalls(this.parts),
      ...nameCalls(this.parts),
      ...jobCalls(this.parts),
    };
    this.server = createServer((request, response) => void this.serve(request, response));
    given.runner.on('job', (job) => this.announce(`job ${job.id} ${job.state}`, { type: 'job', job }));
    setInterval(() => this.sendEvents(), EVENT_PAUSE_MS).unref();
  }

  listen(): Promise<number> {
    return new Promise((resolve) =>
      this.server.listen(0, '127.0.0.1', () => resolve((this.server.address() as AddressInfo).port)),
    );
  }

  close(): void {
    this.server.close();
    this.server.closeAllConnections();
  }

  announce(key: string, event: EngineEvent): void {
    this.waiting.set(key, event);
  }

  announcePool(): void {
    announcePool(this.parts);
  }

  private sendEvents(): void {
    for (const event of this.waiting.values())
      for (const listener of this.listeners) listener.write(`data: ${JSON.stringify(event)}\n\n`);
    this.waiting.clear();
  }

  private async serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
    if (request.headers.authorization !== `Bearer ${this.token}`)
      return reply(response, 403, refusalOf(new Refusal('wrong-origin', 'wrong token')));
    const { pathname } = new URL(request.url ?? '/', 'http://engine');
    try {
      if (request.method === 'GET' && pathname === '/events') return this.openEvents(request, response);
      if (pathname !== '/health') countQuestion(this.parts.runner.questions);
      if (!isEnginePath(pathname)) throw new Refusal('not-here', `the engine has no ${pathname}`);
      const body = request.method === 'POST' ? JSON.parse(await readText(request)) : null;
      const who = decodeURIComponent(String(request.headers['x-actor'] ?? YOU));
      reply(response, 200, await actingAs(who, async () => this.answer(pathname, body)));
    } catch (error) {
      const told = refusalOf(error instanceof z.ZodError ? senseless(error) : toldByStore(error));
      reply(response, REFUSALS[told.code].status, told);
    }
  }

  private answer<Path extends EnginePath>(path: Path, body: unknown): unknown {
    const question = ENGINE_CALLS[path].asked.parse(body);
    // the same path in both tables: the one reads what the other is given
    return (this.handlers[path] as (of: typeof question) => unknown)(question);
  }

  private openEvents(request: IncomingMessage, response: ServerResponse): void {
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    response.write(': open\n\n');
    this.listeners.add(response);
    const beat = setInterval(() => response.write(': beat\n\n'), 15_000);
    request.on('close', () => {
      clearInterval(beat);
      this.listeners.delete(response);
    });
  }
}

const senseless = (error: z.ZodError) =>
  new Refusal('makes-no-sense', z.prettifyError(error), { issues: issuesOf(error) });

function reply(response: ServerResponse, status: number, value: unknown): void {
  const text = JSON.stringify(value);
  response.writeHead(status, { 'content-type': 'application/json', 'content-length': Buffer.byteLength(text) });
  response.end(text);
}

async function readText(request: IncomingMessage): Promise<string> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of request) {
    size += chunk.length;
    if (size > MAX_BODY_BYTES) throw new Refusal('too-large', 'the request is too large');
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString('utf8');
}
