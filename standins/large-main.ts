import { parseArgs } from 'node:util';
import { MOST_DOMAINS, writeLargeWorld } from './large-world';

/** `npm run world -- --domains 3000000 --out data/world --seed 7`: files of a world of any size. */
async function main(): Promise<void> {
  const { values } = parseArgs({
    options: {
      domains: { type: 'string', default: '100000' },
      out: { type: 'string', default: 'data/world' },
      seed: { type: 'string', default: '7' },
    },
  });
  const domains = Number(values.domains);
  const seed = Number(values.seed);
  if (!Number.isInteger(domains) || domains < 1 || domains > MOST_DOMAINS)
    throw new RangeError(`--domains is a whole number from 1 to ${MOST_DOMAINS.toLocaleString('en')}`);
  if (!Number.isInteger(seed) || seed < 0) throw new RangeError('--seed is a whole number from 0 on');
  const began = performance.now();
  const spent = () => `${((performance.now() - began) / 1000).toFixed(0)} s`;
  await writeLargeWorld(values.out, { domains, seed, now: Date.UTC(2026, 10, 20, 8) }, (name) =>
    process.stdout.write(`${spent()}: ${name}\n`),
  );
  process.stdout.write(
    `${domains.toLocaleString('en')} domains in ${values.out}, ${spent()}, ${Math.round(process.resourceUsage().maxRSS / 1024)} MB at most\n`,
  );
}

main().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
