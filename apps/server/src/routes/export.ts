import { Readable } from 'node:stream';
import { Hono } from 'hono';
import yazl from 'yazl';
import { log } from '../log.ts';
import type { Models } from '../db/models/index.ts';
import { exportShop } from '../services/exportShop.ts';
import { attachment } from './attachment.ts';
import { may } from './may.ts';

/** All of the shop as open files, in one archive that is sent as it is made. */
export function exportRoutes(models: Models, services: Parameters<typeof exportShop>[1]): Hono {
  const app = new Hono();
  app.get('/', may('owner'), (c) => {
    const archive = new yazl.ZipFile();
    const output = archive.outputStream as Readable;
    void exportShop(models, services, async (path, content) => {
      archive.addBuffer(Buffer.from(content), path);
      // What is not taken yet is not to pile up.
      while (!output.destroyed && output.readableLength > output.readableHighWaterMark * 4)
        await new Promise((resolve) => setTimeout(resolve, 20));
      if (output.destroyed) throw new Error('nobody takes it any more');
    })
      .then(({ problems }) => {
        if (problems.length > 0) archive.addBuffer(Buffer.from(`${problems.join('\n')}\n`), 'not-written.txt');
        archive.end();
      })
      .catch((error: unknown) => {
        log.error('the shop could not be exported', error);
        output.destroy();
      });
    const name = `isola-${new Date().toISOString().slice(0, 10)}.zip`;
    return c.body(Readable.toWeb(output) as ReadableStream, 200, {
      'Content-Type': 'application/zip',
      'Content-Disposition': attachment(name),
    });
  });
  return app;
}
