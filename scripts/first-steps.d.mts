/** Takes the steps of the demo that have not been taken yet. */
export function takeFirstSteps(options: { port: number; folder: string; log(text: string): void }): Promise<void>;
