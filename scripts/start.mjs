// `npm start`: the product alone, in real mode.
import { resolve } from 'node:path';
import { build, install } from './prepare.mjs';

try {
  install();
  build();
  const { portFromEnvironment, stopWithUs, Supervisor } = await import('./supervise.mjs');
  const port = portFromEnvironment();
  const supervisor = new Supervisor({ folder: resolve(process.env.JAM_LADLE_DATA ?? 'data/real'), port });
  stopWithUs(supervisor);
  try {
    await supervisor.startProduct();
    console.log(`Jam Ladle is ready at http://127.0.0.1:${port}`);
  } catch (error) {
    await supervisor.stop();
    throw error;
  }
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
