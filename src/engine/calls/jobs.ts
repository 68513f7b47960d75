import { Refusal } from '../../core/refusal';
import type { EngineParts, Handlers } from './parts';

/** Long work. */
export const jobCalls = ({ runner }: EngineParts): Handlers<'/jobs' | '/jobs/steer'> => ({
  '/jobs': (order) => runner.add(order),
  '/jobs/steer': ({ id, action }) => {
    const job = runner.steer(id, action);
    if (typeof job === 'string') throw new Refusal('conflict', job);
    return job;
  },
});
