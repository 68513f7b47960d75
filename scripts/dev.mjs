// `npm run dev`: the demo, with pages and engine that take over what is changed in src. The engine is bundled anew and starts again; its jobs go on.
import { resolve } from 'node:path';
import { context } from 'esbuild';
import { BUNDLE } from './bundle.mjs';
import { install } from './prepare.mjs';
import { portFromEnvironment, Supervisor, stopWithUs } from './supervise.mjs';

install();
const port = portFromEnvironment();
const supervisor = new Supervisor({ folder: resolve(process.env.JAM_LADLE_DATA ?? 'data/demo'), port });
stopWithUs(supervisor);
let isUp = false;
let bundled;
const firstBundle = new Promise((done) => {
  bundled = done;
});
const restarts = {
  name: 'restarts-the-engine',
  setup({ onEnd }) {
    onEnd(({ errors }) => {
      if (errors.length > 0) return;
      bundled();
      if (!isUp) return;
      console.log('src has changed: the engine starts again');
      supervisor.restart('The engine');
    });
  },
};
try {
  const bundling = await context({ ...BUNDLE, plugins: [restarts] });
  await bundling.watch();
  await firstBundle;
  await supervisor.hold();
  await supervisor.startWorld();
  await supervisor.startProduct({ isDevelopment: true });
  isUp = true;
  console.log(`Jam Ladle is ready at http://127.0.0.1:${port}, and takes changes over`);
} catch (error) {
  await supervisor.stop();
  console.error(error.message);
  process.exit(1);
}
