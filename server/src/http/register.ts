import { Readable } from 'node:stream';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import type Joi from 'joi';
import type { Sessions } from '../security/sessions.ts';
import { JsonText } from './json-text.ts';
import { refuseOutside, secretIn } from '../security/script-callers.ts';
import { Problem } from './problems.ts';
import type { Replays } from './replays.ts';
import type { Caller, Route } from './route.ts';

/** Versions are 32 bit integers in the database. */
const largestVersion = 2 ** 31 - 1;

const validation: Joi.ValidationOptions = {
  abortEarly: false,
  convert: true,
  errors: { wrap: { label: false } },
};

/** Puts declared routes on the server: roles, forgery, validation, then the handler. */
export function registerRoutes(
  app: FastifyInstance,
  routes: Route[],
  sessions: Sessions,
  checkReplies: boolean,
  replays: Replays,
): void {
  // Files are handed on as they come in: they may be longer than what a server can hold.
  app.addContentTypeParser('text/csv', (_request, payload, done) => done(null, payload));
  for (const declared of routes) {
    app.route({
      method: declared.method,
      url: declared.path,
      ...(declared.bodyLimit === undefined ? {} : { bodyLimit: declared.bodyLimit }),
      config:
        declared.perMinute === undefined
          ? {}
          : { rateLimit: { max: declared.perMinute, timeWindow: 60_000 } },
      handler: async (request, reply) => {
        const caller = await admit(declared, request, sessions);
        const incoming = {
          params: check(declared.params, request.params, ''),
          query: check(declared.query, request.query, ''),
          body: bodyOf(declared, request),
          file: fileOf(declared, request),
          caller,
          version: declared.ifMatch === true ? versionOf(request) : 0,
          http: request,
          reply,
        };
        const work = () => declared.handle(incoming as never);
        // What a file was cannot be known by its text: those who send one do without.
        const answer = await (declared.takes === undefined
          ? replays.once(request, reply, caller, work)
          : work());
        if (checkReplies)
          checkReply(declared, answer instanceof JsonText ? (JSON.parse(answer.text) as unknown) : answer);
        return send(reply, answer);
      },
    });
  }
}

function bodyOf(declared: Route, request: FastifyRequest): unknown {
  if (declared.takes !== undefined) return {};
  if (request.body instanceof Readable) throw new Problem('malformed', 'Send JSON: no file is taken here.');
  return check(declared.body, request.body ?? {}, '/');
}

/** Of a route that takes a file; another type of body is refused. */
function fileOf(declared: Route, request: FastifyRequest): Readable {
  if (declared.takes === undefined) return Readable.from([]);
  if (!(request.body instanceof Readable))
    throw Problem.field('/', `Send the file itself as the body, as ${declared.takes}.`);
  return request.body;
}

function send(reply: FastifyReply, answer: unknown): FastifyReply {
  if (reply.sent) return reply;
  if (answer instanceof JsonText) return reply.type('application/json; charset=utf-8').send(answer.text);
  return answer === undefined || answer === null ? reply.code(204).send() : reply.send(answer);
}

async function admit(declared: Route, request: FastifyRequest, sessions: Sessions): Promise<Caller | null> {
  const found = await sessions.find(request);
  if (declared.who === 'anybody') {
    if (declared.method !== 'GET') sessions.refuseForeignOrigin(request);
    return found;
  }
  if (found === null)
    throw secretIn(request) === null
      ? new Problem('notSignedIn', 'Your sign-in has ended. Sign in again; nothing you typed is lost.')
      : new Problem('notSignedIn', 'This key is not valid (any more). An administrator can make another.');
  // No browser sends a bearer secret by itself: nothing is to be forged with it.
  if (found.script !== undefined) refuseOutside(found.script, declared.area);
  else if (declared.method !== 'GET') sessions.refuseForgery(request, found);
  if (declared.who === 'newcomer') return found;
  if (found.mustSetPassword)
    throw new Problem('passwordNeeded', 'Set a password of your own before anything else.');
  if (!declared.who.includes(found.role)) {
    throw new Problem(
      'notAllowed',
      `This is open to: ${declared.who.join(', ')}. You are signed in as ${found.role}.`,
    );
  }
  return found;
}

function check<T>(schema: Joi.ObjectSchema<T>, value: unknown, prefix: string): T {
  const { error, value: checked } = schema.validate(value, validation);
  if (error === undefined) {
    const path = unkeepable(checked);
    if (path === null) return checked as T;
    throw Problem.field(
      prefix + path,
      'This holds characters that cannot be kept (NUL, or half of a character).',
    );
  }
  const errors = error.details.map((fault) => ({
    path: prefix + fault.path.join('/'),
    detail: sentence(fault.message),
  }));
  throw new Problem('invalidInput', errors.map((fault) => fault.detail).join(' '), errors);
}

/** The path to a text that the database cannot hold; null when there is none. */
function unkeepable(value: unknown): string | null {
  if (typeof value === 'string') return /[\0\p{Surrogate}]/u.test(value) ? '' : null;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, each] of Object.entries(value)) {
    const path = /[\0\p{Surrogate}]/u.test(key) ? '' : unkeepable(each);
    if (path !== null) return path === '' ? key : `${key}/${path}`;
  }
  return null;
}

function sentence(message: string): string {
  const text = message.charAt(0).toUpperCase() + message.slice(1);
  return /[.?]$/.test(text) ? text : `${text}.`;
}

function checkReply(declared: Route, answer: unknown): void {
  const plain: unknown = answer === undefined || answer === null ? null : JSON.parse(JSON.stringify(answer));
  const { error } = declared.reply.validate(plain, { convert: false });
  if (error !== undefined)
    throw new Error(`${declared.method} ${declared.path} answered against its schema: ${error.message}`);
}

function versionOf(request: FastifyRequest): number {
  const header = request.headers['if-match'];
  const version = Number(/^"(\d{1,10})"$/.exec(header ?? '')?.[1]);
  if (Number.isNaN(version) || version > largestVersion) {
    throw new Problem(
      'versionNeeded',
      'Send the version you changed as If-Match, for example If-Match: "3".',
    );
  }
  return version;
}
