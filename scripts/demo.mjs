// `npm run demo`: everything from a bare checkout to the product with its made-up world.
import { resolve } from 'node:path';
import { build, install } from './prepare.mjs';

try {
  install();
  build();
  const { portFromEnvironment, stopWithUs, Supervisor } = await import('./supervise.mjs');
  const { takeFirstSteps } = await import('./first-steps.mjs');
  const port = portFromEnvironment();
  const folder = resolve(process.env.JAM_LADLE_DATA ?? 'data/demo');
  const supervisor = new Supervisor({ folder, port });
  stopWithUs(supervisor);
  try {
    await supervisor.startWorld();
    await supervisor.startProduct();
    if (process.env.JAM_LADLE_FIRST_STEPS !== '0') await takeFirstSteps({ port, folder, log: console.log });
    console.log(`Jam Ladle is ready at http://127.0.0.1:${port}`);
  } catch (error) {
    await supervisor.stop();
    throw error;
  }
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
