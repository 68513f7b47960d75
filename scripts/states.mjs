// Makes the data folders that browser tests begin with, where this build has none yet.
import { register } from 'tsx/esm/api';

register();
const { prepareStates } = await import('../e2e/states.ts');
await prepareStates(console.log);
