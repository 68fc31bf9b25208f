import helmet from '@fastify/helmet';
import type { FastifyInstance } from 'fastify';

const yearSeconds = 365 * 24 * 3_600;

const contentPolicy = {
  defaultSrc: ["'self'"],
  scriptSrc: ["'self'"],
  styleSrc: ["'self'"],
  imgSrc: ["'self'", 'data:'],
  fontSrc: ["'self'"],
  connectSrc: ["'self'"],
  objectSrc: ["'none'"],
  baseUri: ["'none'"],
  frameAncestors: ["'none'"],
  formAction: ["'self'"],
  upgradeInsecureRequests: null,
};

/** The security headers of every answer. Behind TLS, our own or a trusted proxy's, browsers are told to stay there. */
export async function securityHeaders(app: FastifyInstance): Promise<void> {
  await app.register(helmet, {
    contentSecurityPolicy: { directives: contentPolicy },
    // A nonce for each answer: the style sheet that the theme makes in the page bears it.
    enableCSPNonces: true,
    strictTransportSecurity: false,
  });
  app.addHook('onRequest', (request, reply, done) => {
    if (request.protocol === 'https')
      void reply.header('strict-transport-security', `max-age=${yearSeconds}`);
    void reply.header('x-request-id', request.id);
    done();
  });
}
