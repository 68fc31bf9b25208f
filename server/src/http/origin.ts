import type { FastifyRequest } from 'fastify';

/**
 * Whether a browser says that the request comes from another site (RFC 6454). `null`, which frames and files send, and
 * what is no origin at all, are other sites too; without the header it is no browser.
 */
export function isForeign(request: FastifyRequest): boolean {
  const { origin } = request.headers;
  if (origin === undefined) return false;
  return !URL.canParse(origin) || new URL(origin).host !== request.host;
}
