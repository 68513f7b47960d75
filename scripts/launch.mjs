// Installs and builds what is missing, starts the product (in the demo with its world), and stops it with us.
import { resolve } from 'node:path';
import { build, install } from './prepare.mjs';

/** @param isDemo whether the made-up world runs beside it. Ends the process with 1, and a message, when something is wrong. */
export async function launch({ isDemo }) {
  let supervisor;
  try {
    install();
    build();
    const { portFromEnvironment, stopWithUs, Supervisor } = await import('./supervise.mjs');
    const port = portFromEnvironment();
    const folder = resolve(process.env.JAM_LADLE_DATA ?? (isDemo ? 'data/demo' : 'data/real'));
    supervisor = new Supervisor({ folder, port });
    stopWithUs(supervisor);
    await supervisor.hold();
    if (isDemo) await supervisor.startWorld();
    await supervisor.startProduct();
    if (isDemo && process.env.JAM_LADLE_FIRST_STEPS !== '0') {
      const { takeFirstSteps } = await import('./first-steps.mjs');
      await takeFirstSteps({ port, folder, log: console.log });
    }
    const key = isDemo ? '' : `/?key=${await supervisor.key()}`;
    console.log(`Jam Ladle is ready at http://127.0.0.1:${port}${key}`);
  } catch (error) {
    await supervisor?.stop();
    console.error(error.message);
    process.exit(1);
  }
}
