/** A product on somebody's own machine is nobody's to crawl (RFC 9309). */
export function GET(): Response {
  return new Response('User-agent: *\nDisallow: /\n', { headers: { 'content-type': 'text/plain; charset=utf-8' } });
}
