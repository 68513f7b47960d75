/** Before the web server answers anything: it holds the data folder, so that no second one writes there. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { dataFolder } = await import('./store/base/config');
  const { lockFolder } = await import('./store/base/folder-lock');
  try {
    lockFolder(dataFolder(), 'web server');
  } catch (error) {
    process.stderr.write(`The web server cannot start: ${(error as Error).message}\n`);
    process.exit(1);
  }
}
