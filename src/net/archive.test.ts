import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { ArchiveClient } from './archive';
import { HttpClient } from './http';
import { Pacer } from './pacer';

const open: (() => void)[] = [];
afterEach(() => {
  for (const close of open.splice(0)) close();
});
const pacer = () => new Pacer({ intervalMs: 1, maxIntervalMs: 60_000 });
describe('ArchiveClient', () => {
  it('reads a TimeMap over its pages, and knows none when it is missing', async () => {
    const server = createServer((request, response) => {
      const { port } = server.address() as AddressInfo;
      const self = `http://127.0.0.1:${port}`;
      if (request.url?.startsWith('/none')) response.writeHead(404).end();
      else if (request.url === '/page2')
        response.end(`<${self}/web/2/x>;rel="memento";datetime="Tue, 27 Oct 2009 20:49:54 GMT"`);
      else
        response.end(
          `<${self}/web/1/x>;rel="first memento";datetime="Tue, 20 Jun 2000 18:02:59 GMT",<${self}/page2>;rel="next"`,
        );
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    open.push(() => server.close());
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const http = new HttpClient({ allowedPrivate: ['127.0.0.1'] });
    const archive = (path: string) => new ArchiveClient(http, pacer(), `${base}${path}/{url}`);
    expect(
      (await archive('/map').timeMap('http://a.org/')).mementos.map(({ at }) => new Date(at).getUTCFullYear()),
    ).toEqual([2000, 2009]);
    expect((await archive('/none').timeMap('http://a.org/')).mementos).toEqual([]);
  });

  it('reads an index of captures, and takes a page that is neither for no answer', async () => {
    const asked: string[] = [];
    const server = createServer((request, response) => {
      asked.push(request.url ?? '');
      response.end(
        request.url?.startsWith('/index')
          ? '[["urlkey","timestamp","original"],["org,a)/","20091027204954","http://a.org/"]]'
          : '<!doctype html><p>Parked',
      );
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    open.push(() => server.close());
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const http = new HttpClient({ allowedPrivate: ['127.0.0.1'] });
    const at = Date.UTC(2009, 9, 27, 20, 49, 54);
    const index = `${base}/index?output=json&url={url}`;
    const capture = `${base}/web/{timestamp}id_/{url}`;
    expect(await new ArchiveClient(http, pacer(), index, capture).timeMap('http://a.org/')).toMatchObject({
      mementos: [{ at, url: `${base}/web/20091027204954id_/http://a.org/` }],
    });
    expect(asked).toEqual(['/index?output=json&url=http%3A%2F%2Fa.org%2F']);
    // nobody has said how to read it: it counts all the same
    expect(await new ArchiveClient(http, pacer(), index).timeMap('http://a.org/')).toMatchObject({
      mementos: [{ at, url: '' }],
    });
    await expect(new ArchiveClient(http, pacer(), `${base}/{url}`).timeMap('http://a.org/')).rejects.toThrow(
      'neither a TimeMap nor an index',
    );
  });
});
