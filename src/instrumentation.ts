/** Before the web server answers anything. What it does needs Node, and is kept out of what is built for other places. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { holdFolder } = await import('./store/base/hold-folder');
  holdFolder();
  const { tellLocaleOfRequests } = await import('./app/request-locale');
  tellLocaleOfRequests();
}
