import Joi from 'joi';
import type { FastifyReply, FastifyRequest } from 'fastify';
import type { Stretch } from '../spine/listing.ts';

export interface PageQuery {
  limit: number;
  after?: string;
  total: boolean;
}

/** Rows of one stretch of a list; `total` where it was asked for. */
export interface Page<Row> {
  rows: Row[];
  next: string | null;
  total: number | null;
}

const usual = 200;
const most = 1_000;

/** How many rows a stretch has at most. */
export const stretchLimit = Joi.number().integer().min(1).max(most);

/** The parts of a query that every long list takes, beside what narrows it. */
export const pageQuery = {
  limit: stretchLimit.default(usual),
  after: Joi.string().max(1_000),
  total: Joi.boolean().default(false),
};

/** Those of a list that one asks for by id. */
export const someIds = Joi.array()
  .items(Joi.string().guid())
  .single()
  .max(200)
  .messages({ 'array.max': 'At most 200 ids at once.' });

export function stretchOf({ limit, after }: PageQuery): Stretch {
  return { limit, after };
}

/** Rows as the body; where the next stretch is (RFC 8288), and how many there are in all, as headers. */
export function answerPage<Row>(http: FastifyRequest, reply: FastifyReply, page: Page<Row>): Row[] {
  if (page.next !== null) {
    const [path, asked] = http.url.split('?');
    const query = new URLSearchParams(asked);
    query.set('after', page.next);
    query.delete('total');
    void reply.header('link', `<${path}?${query.toString()}>; rel="next"`);
  }
  if (page.total !== null) void reply.header('total-count', String(page.total));
  return page.rows;
}
