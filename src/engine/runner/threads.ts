import { join } from 'node:path';
import { Worker, type WorkerOptions } from 'node:worker_threads';

/**
 * Starts a thread of the engine: from its bundle, or, where the engine itself runs from its sources (tests, benchmarks),
 * from the source through the loader that they use.
 *
 * @param source path of the thread's file in `src/engine`, without its ending.
 * @param bundle name of its bundle beside the engine's.
 */
export function startThread(source: string, bundle: string, options: WorkerOptions): Worker {
  const here = import.meta.url;
  if (here.endsWith('.mjs')) return new Worker(new URL(`./${bundle}.mjs`, here), options);
  // bundles of these very sources, made by who runs tests
  const bundles = process.env.JAM_LADLE_THREADS;
  if (bundles) return new Worker(join(bundles, `${bundle}.mjs`), options);
  const file = new URL(`../${source}.ts`, here).href;
  const code = `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(file)}); });`;
  return new Worker(code, { ...options, eval: true, execArgv: [] });
}
