import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fastifyStatic from '@fastify/static';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { isPage } from '@night-bell/core/model/page-paths';
import { sendProblem } from './failures.ts';
import { Problem } from './problems.ts';

/** Where the built page takes in the nonce under which its theme's style sheet is let in. */
const noncePlace = '__STYLE_NONCE__';

/** What the built page names to be fetched ahead, and for whom: the frame for all who are signed in, the rest for pages in it. */
const fetchedAhead = /<link [^>]*data-for="(frame|page)"[^>]*>\s*/g;

/**
 * The built web client: its files, its one page at every path it has, and 404 for everything else. `isKnown` says who
 * bears a cookie of a session: they are told at once what they will need.
 */
export async function serveWebClient(
  app: FastifyInstance,
  folder: string | null,
  isKnown: (request: FastifyRequest) => boolean,
): Promise<void> {
  const page = folder === null ? null : readFileSync(join(folder, 'index.html'), 'utf8');
  const forStrangers = page?.replace(fetchedAhead, '') ?? '';
  const forTrail = page?.replace(fetchedAhead, (line, reader) => (reader === 'frame' ? line : '')) ?? '';
  if (folder !== null)
    await app.register(fastifyStatic, {
      root: folder,
      index: false,
      wildcard: false,
      preCompressed: true,
      cacheControl: false,
      // What bears a hash of itself in its name never changes.
      setHeaders: (reply, path) =>
        void reply.header(
          'cache-control',
          path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'public, max-age=3600',
        ),
    });
  app.setNotFoundHandler((request, reply) => {
    const path = request.url.split('?')[0]!;
    const isRead = request.method === 'GET' || request.method === 'HEAD';
    const navigates = request.headers['sec-fetch-mode'] === 'navigate' && !path.startsWith('/api/');
    if (page !== null && isRead && (isPage(path) || navigates)) {
      const forAll = path === '/' ? forTrail : page;
      return reply
        .code(isPage(path) ? 200 : 404)
        .header('cache-control', 'no-store')
        .type('text/html; charset=utf-8')
        .send((isKnown(request) ? forAll : forStrangers).replace(noncePlace, reply.cspNonce.style));
    }
    return sendProblem(request, reply, new Problem('notFound', `There is no ${request.method} ${path}.`));
  });
}
