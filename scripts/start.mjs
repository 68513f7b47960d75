// `npm start`: the product alone, in real mode.
import { launch } from './launch.mjs';

await launch({ isDemo: false });
