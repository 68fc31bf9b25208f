import { lookup as resolve } from 'node:dns';
import { request as httpRequest } from 'node:http';
import { request as httpsRequest } from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import { refusedBecause } from './address.ts';

export interface OutgoingRequest {
  method: string;
  /** Sent to the origin asked for only: a redirect elsewhere goes without them. */
  secretHeaders?: Record<string, string>;
  headers?: Record<string, string>;
  body?: string;
  timeoutMs: number;
  /** The answer is cut off when it is longer. */
  mostBytes: number;
}

export interface Answer {
  status: number;
  text: string;
}

/** Why an outside service could not be asked. `where` names what may be allowed, for `refused`. */
export class OutgoingFault extends Error {
  readonly code: 'refused' | 'away' | 'slow' | 'tooLong' | 'redirects';
  readonly where: string;

  constructor(code: OutgoingFault['code'], detail: string, where = '') {
    super(detail);
    this.code = code;
    this.where = where;
  }
}

const mostRedirects = 3;

/**
 * The one door to outside services over HTTP. Addresses on this machine and in private networks are refused unless they
 * are allowed by name, and it is the resolved address that counts, at every redirect: a name may lead anywhere. Answers
 * are bounded in time and, while they come in, in length.
 */
export class Outgoing {
  private readonly allowed: () => Promise<ReadonlySet<string>>;

  /** `allowed` gives `host:port` of what may be asked wherever it is. */
  constructor(allowed: () => Promise<ReadonlySet<string>>) {
    this.allowed = allowed;
  }

  async ask(address: string, request: OutgoingRequest): Promise<Answer> {
    const allowed = await this.allowed();
    const until = Date.now() + request.timeoutMs;
    const origin = new URL(address).origin;
    let url = new URL(address);
    for (let redirects = 0; ; redirects++) {
      const headers = {
        ...request.headers,
        ...(url.origin === origin ? request.secretHeaders : {}),
      };
      const answer = await this.once(url, { ...request, headers, timeoutMs: until - Date.now() }, allowed);
      if (answer.location === null) return answer;
      if (redirects === mostRedirects || request.method !== 'GET')
        throw new OutgoingFault('redirects', 'It sends elsewhere, and from there elsewhere again.');
      url = new URL(answer.location, url);
      if (url.protocol !== 'http:' && url.protocol !== 'https:')
        throw new OutgoingFault('redirects', 'It sends to an address that is no web address.');
    }
  }

  private once(
    url: URL,
    { method, headers, body, timeoutMs, mostBytes }: Omit<OutgoingRequest, 'secretHeaders'>,
    allowed: ReadonlySet<string>,
  ): Promise<Answer & { location: string | null }> {
    const host = url.hostname.replace(/^\[|\]$/g, '');
    const where = placeOf(url);
    const free = allowed.has(where);
    if (isIP(host) !== 0 && !free) {
      const why = refusedBecause(host);
      if (why !== null) return Promise.reject(refusal(host, why, where));
    }
    return new Promise((done, reject) => {
      const open = url.protocol === 'https:' ? httpsRequest : httpRequest;
      const asked = open(
        url,
        {
          method,
          headers: {
            ...headers,
            ...(body === undefined ? {} : { 'content-length': Buffer.byteLength(body) }),
          },
          // Checked where the connection is made: what was resolved before could be another address by then.
          lookup: guardedLookup(free, where),
          agent: false,
        },
        (response) => {
          const { statusCode: status = 0, headers: sent } = response;
          const location = status >= 300 && status < 400 ? (sent.location ?? null) : null;
          const parts: Buffer[] = [];
          let length = 0;
          response.on('data', (part: Buffer) => {
            length += part.length;
            if (length > mostBytes)
              fail(new OutgoingFault('tooLong', 'It answered more than is taken at once.'));
            else parts.push(part);
          });
          response.on('error', fail);
          response.on('end', () => {
            clearTimeout(timer);
            done({ status, text: Buffer.concat(parts).toString('utf8'), location });
          });
        },
      );
      const fail = (error: unknown) => {
        clearTimeout(timer);
        asked.destroy();
        reject(
          error instanceof OutgoingFault
            ? error
            : new OutgoingFault(
                'away',
                `Nothing answers at ${url.origin}. Check the address, and that it is running.`,
              ),
        );
      };
      const timer = setTimeout(
        () => fail(new OutgoingFault('slow', 'It did not answer in time.')),
        Math.max(0, timeoutMs),
      );
      asked.on('error', fail);
      asked.end(body);
    });
  }
}

/** `host:port`, as it is allowed by name. */
export function placeOf(url: URL): string {
  const port = url.port === '' ? (url.protocol === 'https:' ? '443' : '80') : url.port;
  return `${url.hostname}:${port}`;
}

function refusal(address: string, why: string, where: string): OutgoingFault {
  return new OutgoingFault(
    'refused',
    `${address} is on ${why}. It is not asked unless you allow ${where}.`,
    where,
  );
}

function guardedLookup(free: boolean, where: string): LookupFunction {
  return (host, options, callback) => {
    resolve(host, { ...options, all: true }, (error, found) => {
      if (error !== null) return callback(error, []);
      for (const { address } of found) {
        const why = free ? null : refusedBecause(address);
        if (why !== null) return callback(refusal(address, why, where), []);
      }
      const [first] = found;
      if (options.all === true) callback(null, found);
      else callback(null, first?.address ?? '', first?.family ?? 0);
    });
  };
}
