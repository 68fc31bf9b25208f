import type { Readable } from 'node:stream';
import type { FastifyReply, FastifyRequest } from 'fastify';
import Joi from 'joi';
import type { Role } from '@night-bell/core/model/roles';
import type { ScriptCaller } from '../security/script-callers.ts';
import type { ProblemCode } from './problems.ts';

/** Who sent the request. */
export interface Caller {
  personId: string;
  name: string;
  role: Role;
  sessionHash: string;
  /** A script with a key, instead of somebody who signed in. */
  script?: ScriptCaller;
}

export interface Incoming<Params, Query, Body> {
  params: Params;
  query: Query;
  body: Body;
  /** Null only on routes that anybody may call. */
  caller: Caller | null;
  /** The body of a route that takes a file. */
  file: Readable;
  /** The version named by If-Match, on routes that ask for it. */
  version: number;
  http: FastifyRequest;
  reply: FastifyReply;
}

export type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';

/** The one way to declare a route. Validation, the roles check and the API document come from this. */
export interface Declaration<Params, Query, Body, Reply> {
  method: Method;
  path: string;
  /** The heading it stands under in the API document. */
  area: string;
  summary: string;
  /** Roles that may call it; 'anybody' needs no sign-in, 'newcomer' one that may still lack an own password. */
  who: readonly Role[] | 'anybody' | 'newcomer';
  params: Joi.ObjectSchema<Params>;
  query: Joi.ObjectSchema<Query>;
  body: Joi.ObjectSchema<Body>;
  reply: Joi.Schema<Reply>;
  /** Problems of its own, beside those every route can have. */
  errors: readonly ProblemCode[];
  /** Whether it takes the version that was changed in If-Match. */
  ifMatch?: boolean;
  /** A body that is taken, for the API document. */
  example?: Record<string, unknown>;
  /** Answers with a stretch of a list: where the next is, and how many there are, stands in its headers. */
  pages?: true;
  /** A file of this type is its body, handed on as it comes in (`file`). */
  takes?: 'text/csv';
  /** Calls a minute from one address, where the general limit is too wide. */
  perMinute?: number;
  /** Bytes of body taken, where the general limit of 2 MB is too small. */
  bodyLimit?: number;
  handle: (incoming: Incoming<Params, Query, Body>) => Promise<Reply>;
}

/** A declaration with its type parameters forgotten, for lists. */
export type Route = Declaration<never, never, never, unknown>;

export const nothing = Joi.object<Record<string, never>>({});

/** Completes a declaration: parts that are left out are empty. */
export function route<
  Params = Record<string, never>,
  Query = Record<string, never>,
  Body = Record<string, never>,
  Reply = unknown,
>(
  declaration: Omit<Declaration<Params, Query, Body, Reply>, 'params' | 'query' | 'body'> &
    Partial<Pick<Declaration<Params, Query, Body, Reply>, 'params' | 'query' | 'body'>>,
): Route {
  return { params: nothing, query: nothing, body: nothing, ...declaration } as unknown as Route;
}

export const idParams = Joi.object<{ id: string }>({ id: Joi.string().guid().required() });

/** The caller of a route that is not open to anybody. */
export function signedIn(caller: Caller | null): Caller {
  if (caller === null) throw new Error('declare who may call this route');
  return caller;
}
