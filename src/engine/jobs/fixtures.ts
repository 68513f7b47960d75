import { createHash } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

/** A web server with one document, for tests: it has an ETag and answers conditional requests. */
export class OneDocument {
  body: string | Buffer = '';
  status = 200;
  contentType = 'application/json';
  /** Whether it sends an ETag and minds If-None-Match. */
  isConditional = true;
  requests = 0;
  private readonly server: Server;

  constructor() {
    this.server = createServer((request, response) => {
      this.requests++;
      const etag = `"${createHash('sha256').update(this.body).digest('hex').slice(0, 12)}"`;
      if (this.isConditional && request.headers['if-none-match'] === etag) {
        response.writeHead(304, { etag }).end();
        return;
      }
      response.writeHead(this.status, { 'content-type': this.contentType, ...(this.isConditional && { etag }) });
      response.end(this.body);
    });
  }

  async open(): Promise<void> {
    await new Promise<void>((done) => this.server.listen(0, '127.0.0.1', done));
  }

  get url(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}/document`;
  }

  close(): void {
    this.server.close();
    this.server.closeAllConnections();
  }
}
