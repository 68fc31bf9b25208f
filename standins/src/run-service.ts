/**
 * Keeps a stand-in process running until it is told to stop. An error nobody caught is said once, and the process ends:
 * whoever started it starts it again.
 */
export function runService(name: string, close: () => Promise<void> | void): void {
  for (const signal of ['SIGTERM', 'SIGINT', 'disconnect'] as const)
    process.on(signal, () => void Promise.resolve(close()).finally(() => process.exit(0)));
  const end = (error: unknown) => {
    process.stderr.write(`${name} met an error nobody caught: ${(error as Error).stack ?? String(error)}\n`);
    process.exit(1);
  };
  process.on('uncaughtException', end);
  process.on('unhandledRejection', end);
}
