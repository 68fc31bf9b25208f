import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import knex, { type Knex } from 'knex';

const project = fileURLToPath(new URL('../..', import.meta.url));

const signedInTimes = 4;

interface Running {
  address: string;
  secondPort: number;
  postgres: number;
  pids: Record<'server' | 'standIns' | 'harbourBook' | 'numberShop', number>;
  serverEnvironment: { NIGHT_BELL_DATABASE: string; NIGHT_BELL_GATEWAY_KEY: string };
}

export type Part = keyof Running['pids'] | 'postgres';

export interface Reply<T = Record<string, unknown>> {
  /** 0 when nobody answered. */
  status: number;
  retryAfter: string | null;
  body: T;
}

/** A demo company of its own on a port of its own, run by the starter as people run it, with all its processes. */
export class Installation {
  readonly folder: string;
  readonly database: Knex;
  private readonly starter: ChildProcess;
  private second: ChildProcess | null = null;
  /** Several sign-ins of one administrator: each may ask so often a minute, and this one asks a lot. */
  private readonly signIns: { cookie: string; 'x-night-bell-token': string }[] = [];
  private asked = 0;
  said = '';
  /** Answers that must never be: what was asked, and what came. */
  readonly faults: string[] = [];
  readonly seen = new Map<number, number>();

  private constructor(folder: string, starter: ChildProcess) {
    this.folder = folder;
    this.starter = starter;
    this.database = knex({ client: 'pg', connection: this.running.serverEnvironment.NIGHT_BELL_DATABASE });
  }

  static async start(port: number): Promise<Installation> {
    // Below the project: PostgreSQL's user must be able to enter it.
    const folder = join(project, '.data', `abuse-${process.pid}`);
    mkdirSync(folder, { recursive: true, mode: 0o755 });
    const starter = spawn(
      process.execPath,
      ['scripts/run.mjs', 'demo', '--data', folder, '--port', String(port)],
      { cwd: project, stdio: ['ignore', 'pipe', 'pipe'] },
    );
    let said = '';
    const hear = (part: Buffer) => void (said = `${said}${part}`.slice(-20_000));
    starter.stdout.on('data', hear);
    starter.stderr.on('data', hear);
    await until(
      () => starter.exitCode !== null || existsSync(join(folder, 'running.json')),
      'it runs',
      120_000,
    );
    if (starter.exitCode !== null) throw new Error(`the demo did not start:\n${said}`);
    const made = new Installation(folder, starter);
    starter.stdout.on('data', () => void (made.said = said));
    for (let i = 0; i < signedInTimes; i++) made.signIns.push(await made.signIn());
    return made;
  }

  get running(): Running {
    return JSON.parse(readFileSync(join(this.folder, 'running.json'), 'utf8')) as Running;
  }

  get address(): string {
    return this.running.address;
  }

  pid(part: Part): number {
    const { postgres, pids } = this.running;
    return part === 'postgres' ? postgres : pids[part];
  }

  /** Whether the starter still runs: nothing of what happens below it may end it. */
  get isUp(): boolean {
    return this.starter.exitCode === null;
  }

  /** Headers of a sign-in of its own. */
  async signIn(): Promise<{ cookie: string; 'x-night-bell-token': string }> {
    const { password } = JSON.parse(readFileSync(join(project, 'demo/company.json'), 'utf8')) as {
      password: string;
    };
    const answer = await fetch(`${this.address}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ login: 'rowan.tseng', password }),
    });
    if (!answer.ok) throw new Error(`cannot sign in: ${await answer.text()}`);
    const cookie = answer.headers
      .getSetCookie()
      .map((each) => each.split(';')[0]!)
      .join('; ');
    const session = await fetch(`${this.address}/api/session`, { headers: { cookie } });
    const { token } = (await session.json()) as { token: string };
    return { cookie, 'x-night-bell-token': token };
  }

  /** Of the sign-ins one after the other. */
  get headers(): Record<string, string> {
    return this.signIns[this.asked++ % this.signIns.length]!;
  }

  /** Asks as the administrator. A 500, or a 503 without when to try again, is a fault whatever is going on. */
  async send<T = Record<string, unknown>>(
    method: string,
    path: string,
    body?: unknown,
    address = this.address,
  ): Promise<Reply<T>> {
    try {
      const answer = await fetch(`${address}${path}`, {
        method,
        headers: { ...this.headers, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        signal: AbortSignal.timeout(8_000),
      });
      const text = await answer.text();
      const { status } = answer;
      this.seen.set(status, (this.seen.get(status) ?? 0) + 1);
      const retryAfter = answer.headers.get('retry-after');
      if (status === 500 || (status === 503 && retryAfter === null))
        this.faults.push(`${method} ${path}: ${status} ${text.slice(0, 200)}`);
      return {
        status,
        retryAfter,
        body: (text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : {}) as T,
      };
    } catch {
      return { status: 0, retryAfter: null, body: {} as T };
    }
  }

  async startSecond(): Promise<string> {
    const { secondPort } = this.running;
    this.second = spawn(process.execPath, ['scripts/run.mjs', 'second', '--data', this.folder], {
      cwd: project,
      stdio: 'ignore',
    });
    const address = `http://127.0.0.1:${secondPort}`;
    await until(
      async () => (await this.send('GET', '/api/health', undefined, address)).status === 200,
      'the second answers',
      30_000,
    );
    return address;
  }

  async stopSecond(): Promise<void> {
    await ended(this.second);
    this.second = null;
  }

  async stop(): Promise<void> {
    await this.database.destroy();
    await ended(this.second);
    await ended(this.starter);
    rmSync(this.folder, { recursive: true, force: true });
  }
}

function ended(child: ChildProcess | null): Promise<void> {
  if (child === null || child.exitCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    child.once('exit', () => resolve());
    child.kill('SIGTERM');
  });
}

/** Waits for a state; the time it took in milliseconds. */
export async function until(look: () => unknown, what: string, longestMs = 60_000): Promise<number> {
  const began = Date.now();
  for (;;) {
    if (await look()) return Date.now() - began;
    if (Date.now() - began > longestMs) throw new Error(`waited in vain until ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 60));
  }
}
