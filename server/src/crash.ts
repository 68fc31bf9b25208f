import type { Logger } from 'pino';

/** What is going on, for the last line of a process that must end. */
export interface GoingOn {
  requests: () => string[];
  seq: () => number | null;
}

/**
 * An error nobody caught leaves a process whose state may be wrong: it is said once, with what was going on, and the
 * process ends. Whoever started it starts it again, and everything committed is read from the log.
 */
export function endOnUncaught(logger: Logger, goingOn: GoingOn): void {
  let ending = false;
  const end = (how: string) => (error: unknown) => {
    if (ending) return;
    ending = true;
    logger.fatal(
      {
        error: error instanceof Error ? (error.stack ?? error.message) : String(error),
        requests: goingOn.requests(),
        seq: goingOn.seq(),
      },
      `${how}: the process ends and is to be started again`,
    );
    // The line is written before the process goes.
    logger.flush();
    setTimeout(() => process.exit(1), 50);
  };
  process.on('uncaughtException', end('an error nobody caught'));
  process.on('unhandledRejection', end('a promise nobody waited for failed'));
}
