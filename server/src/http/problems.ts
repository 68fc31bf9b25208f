/** Every error the API can answer with: code, status and title in one place (RFC 9457). */
export const problems = {
  invalidInput: { status: 422, title: 'Something in what was sent is not right' },
  malformed: { status: 400, title: 'The request cannot be read' },
  notSignedIn: { status: 401, title: 'Sign in first' },
  wrongSignIn: { status: 401, title: 'Login and password do not match' },
  passwordNeeded: { status: 403, title: 'Set a password of your own first' },
  notAllowed: { status: 403, title: 'Your role does not allow this' },
  forgedRequest: { status: 403, title: 'The request did not come from a page of Night Bell' },
  notFound: { status: 404, title: 'There is no such thing' },
  alreadySetUp: { status: 409, title: 'This installation already has an administrator' },
  taken: { status: 409, title: 'Somebody else has it already' },
  inUse: { status: 409, title: 'Something still leads here' },
  notNow: { status: 409, title: 'That does not fit the present state' },
  versionNeeded: { status: 428, title: 'Say which version you changed' },
  changedMeanwhile: { status: 412, title: 'Somebody else changed this meanwhile' },
  tooLarge: { status: 413, title: 'More was sent than is taken at once' },
  tooMany: { status: 429, title: 'Too many requests' },
  exchangeAway: { status: 503, title: 'The exchange is not answering' },
  databaseAway: { status: 503, title: 'The database is not answering' },
  broken: { status: 500, title: 'Something went wrong inside Night Bell' },
} as const;

export type ProblemCode = keyof typeof problems;

export interface FieldFault {
  /** JSON pointer into the body, or the name of a query or path parameter. */
  path: string;
  /** A sentence a person can act on. */
  detail: string;
}

/** Thrown by any part of the server to answer with a problem. */
export class Problem extends Error {
  readonly code: ProblemCode;
  readonly detail: string;
  readonly errors: FieldFault[];
  readonly more: Record<string, unknown>;

  constructor(
    code: ProblemCode,
    detail: string,
    errors: FieldFault[] = [],
    more: Record<string, unknown> = {},
  ) {
    super(`${code}: ${detail}`);
    this.code = code;
    this.detail = detail;
    this.errors = errors;
    this.more = more;
  }

  /** A fault in one field. */
  static field(path: string, detail: string, code: ProblemCode = 'invalidInput'): Problem {
    return new Problem(code, detail, [{ path, detail }]);
  }

  get status(): number {
    return problems[this.code].status;
  }

  body(): Record<string, unknown> {
    return {
      type: `/api/problems#${this.code}`,
      title: problems[this.code].title,
      status: this.status,
      detail: this.detail,
      code: this.code,
      errors: this.errors,
      ...this.more,
    };
  }
}
