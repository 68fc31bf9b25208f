import type { FastifyError, FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { escapeHtml, plainPage } from './plain-page.ts';
import { Problem } from './problems.ts';

/** Answers every failure as a problem; somebody who opens an address in a browser gets a page that says the same. */
export function answerFailures(app: FastifyInstance): void {
  app.setErrorHandler((error: FastifyError, request, reply) =>
    sendProblem(request, reply, asProblem(error, request)),
  );
}

export function sendProblem(request: FastifyRequest, reply: FastifyReply, problem: Problem): FastifyReply {
  const { retryAfter } = problem.more;
  if (typeof retryAfter === 'number') void reply.header('retry-after', String(retryAfter));
  void reply.code(problem.status);
  return request.headers['sec-fetch-mode'] === 'navigate'
    ? reply.type('text/html; charset=utf-8').send(problemPage(problem, reply.cspNonce.style))
    : reply.type('application/problem+json').send(problem.body());
}

function problemPage({ detail }: Problem, nonce: string): string {
  const body = `<h1>Night Bell</h1><p>${escapeHtml(detail)}</p><p><a href="/">To the first page</a></p>`;
  return plainPage('Night Bell', body, nonce);
}

function asProblem(error: FastifyError, request: FastifyRequest): Problem {
  if (error instanceof Problem) return error;
  if (error.statusCode === 413)
    return new Problem('tooLarge', 'More was sent than is taken at once. Split it and send the parts.');
  if (error.statusCode !== undefined && error.statusCode < 500)
    return new Problem('malformed', error.message);
  if (isDatabaseAway(error)) {
    return new Problem(
      'databaseAway',
      'The database is not answering. Nothing was saved; try again in a moment.',
      [],
      { retryAfter: 2 },
    );
  }
  // What a request names must be there; the database has the last word on that.
  if (error.code === foreignKeyViolation)
    return new Problem(
      'invalidInput',
      'Something this refers to does not exist, or not any more. Choose again.',
    );
  if (/^22/.test(error.code ?? '')) {
    // A check of ours let through what the database does not: ours is to be mended.
    request.log.error(
      { error: error.message, route: request.routeOptions.url },
      'the database refused a value',
    );
    return new Problem(
      'invalidInput',
      'Something in what was sent is too large, or of another kind than is kept.',
    );
  }
  // Who asked went away before the answer was out.
  const isGone = error.code === 'ERR_STREAM_PREMATURE_CLOSE';
  request.log[isGone ? 'debug' : 'error']({ error: error.stack ?? String(error) }, 'a request failed');
  return new Problem(
    'broken',
    'Something went wrong inside Night Bell. Nothing was saved. The log says more.',
    [],
    { request: request.id },
  );
}

/** PostgreSQL's error codes, appendix A. */
const foreignKeyViolation = '23503';

/** Connection refused, reset or shut down; class 57 and 08 of PostgreSQL's error codes. */
function isDatabaseAway(error: FastifyError): boolean {
  return (
    /^(ECONN|EPIPE|57P|08|53300)/.test(error.code ?? '') ||
    /Connection terminated|Connection ended|Timeout acquiring a connection|Client has encountered a connection error|the database system is/.test(
      error.message,
    )
  );
}
