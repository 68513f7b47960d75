import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';

const READY_MS = 300_000;
/** On a machine that has a bad hour the same work takes six times as long. */
const DONE_MS = 900_000;

/** The production build of the product, with the demo world, at work in a folder. */
export class Product {
  private constructor(
    private readonly child: ChildProcess,
    readonly folder: string,
    readonly url: string,
  ) {}

  /** @throws when it is not ready in time, with what it said. */
  static async start(folder: string, port: number): Promise<Product> {
    // it ends with the tests, however those end
    const child = spawn(process.execPath, ['--import', './scripts/end-with-parent.mjs', 'scripts/demo.mjs'], {
      env: { ...process.env, JAM_LADLE_DATA: folder, PORT: String(port), JAM_LADLE_FIRST_STEPS: '0' },
      stdio: ['pipe', 'pipe', 'pipe'],
    });
    let output = '';
    await new Promise<void>((ready, failed) => {
      const timer = setTimeout(() => failed(new Error(`the demo was not ready in time: ${output}`)), READY_MS);
      child.once('exit', (code) => failed(new Error(`the demo ended with ${code}: ${output}`)));
      child.stderr?.on('data', (chunk) => {
        output += chunk;
      });
      child.stdout?.on('data', (chunk) => {
        output += chunk;
        if (!output.includes('Jam Ladle is ready at')) return;
        clearTimeout(timer);
        ready();
      });
    });
    // what it complains of later stands beside the test's own words
    child.stderr?.pipe(process.stderr, { end: false });
    return new Product(child, folder, `http://127.0.0.1:${port}`);
  }

  /** Of the process that holds all others. */
  get pid(): number {
    return this.child.pid ?? 0;
  }

  stop(): Promise<void> {
    if (this.child.exitCode !== null || this.child.signalCode !== null) return Promise.resolve();
    return new Promise((done) => {
      this.child.once('exit', () => done());
      this.child.kill('SIGTERM');
    });
  }

  async call(path: string, options: RequestInit = {}) {
    const answer = await fetch(`${this.url}/api/v1${path}`, options);
    const value = await answer.json();
    if (!answer.ok) throw new Error(`${path}: ${value.detail}`);
    return value;
  }

  post(path: string, body: object) {
    const headers = { 'content-type': 'application/json' };
    return this.call(path, { method: 'POST', headers, body: JSON.stringify(body) });
  }

  send(path: string, body: string | Buffer) {
    return this.call(path, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: Buffer.from(body),
    });
  }

  /** Sends a file of the world. */
  upload(path: string, file: string) {
    return this.send(path, readFileSync(join(this.folder, 'world', file)));
  }

  /** Waits for all work that was ordered. @throws when some of it failed. */
  async allDone(): Promise<void> {
    for (const until = Date.now() + DONE_MS; Date.now() < until; await sleep(100)) {
      const { jobs } = (await this.call('/jobs')) as { jobs: { state: string; kind: string; error: string | null }[] };
      const failed = jobs.find(({ state }) => state === 'failed');
      if (failed) throw new Error(`${failed.kind} failed: ${failed.error}`);
      if (jobs.every(({ state }) => state === 'done')) return;
    }
    throw new Error('the work was not done in time');
  }
}
