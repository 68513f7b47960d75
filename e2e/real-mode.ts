import { type ChildProcess, spawn } from 'node:child_process';
import { expect } from '@playwright/test';

const READY_MS = 120_000;

/** A product in real mode that a test started. */
export interface RealProduct {
  child: ChildProcess;
  /** What it printed to be opened, with its key. */
  address: string;
  output(): string;
  stop(): Promise<unknown>;
}

/** Starts the product by a command of its own, and waits until it is ready. */
export async function startReal(
  folder: string,
  port: number,
  env: Record<string, string> = {},
  [command, ...args]: string[] = [process.execPath, 'scripts/start.mjs'],
): Promise<RealProduct> {
  const child = spawn(command, args, {
    env: { ...process.env, JAM_LADLE_DATA: folder, PORT: String(port), ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let output = '';
  child.stdout?.on('data', (chunk) => {
    output += chunk;
  });
  await expect.poll(() => output, { timeout: READY_MS }).toContain('Jam Ladle is ready at');
  return {
    child,
    address: /ready at (\S+)/.exec(output)?.[1] ?? '',
    output: () => output,
    stop: () => Promise.all([new Promise((ended) => child.once('exit', ended)), child.kill('SIGTERM')]),
  };
}

/** What a start says that ends by itself, and how it ended. @param answers what is typed when it asks, in turn. */
export function runReal(
  folder: string,
  port: number,
  { env = {}, args = [], answers = [] }: { env?: Record<string, string>; args?: string[]; answers?: string[] } = {},
): Promise<{ code: number; said: string }> {
  const child = spawn(process.execPath, ['scripts/start.mjs', ...args], {
    env: { ...process.env, JAM_LADLE_DATA: folder, PORT: String(port), ...env },
    stdio: ['pipe', 'pipe', 'pipe'],
  });
  let said = '';
  const left = [...answers];
  const hear = (chunk: Buffer) => {
    said += chunk;
    // a question ends without the end of its line
    if (/: $/.test(String(chunk)) && left.length > 0) child.stdin.write(`${left.shift()}\n`);
  };
  child.stdout.on('data', hear);
  child.stderr.on('data', hear);
  return new Promise((ended) => child.once('exit', (code) => ended({ code: code ?? -1, said })));
}
