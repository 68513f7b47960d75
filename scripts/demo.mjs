// `npm run demo`: everything from a bare checkout to the product with its made-up world.
import { launch } from './launch.mjs';

await launch({ isDemo: true });
