import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterEach, beforeEach, expect, test } from 'vitest';

interface Child {
  beatAt: number | null;
  checkHeartbeat(): void;
  pid: number | undefined;
  start: () => Promise<{ ready: true } | null>;
  stop: () => Promise<void>;
}
const library = fileURLToPath(new URL('../scripts/lib/supervise.mjs', import.meta.url));
const { Supervised } = (await import(library)) as { Supervised: new (options: object) => Child };

let folder: string;
let child: Child | null = null;
const broken: string[] = [];

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'night-bell-'));
  broken.length = 0;
});
afterEach(async () => {
  await child?.stop();
  child = null;
  rmSync(folder, { recursive: true });
});

/** Runs `work` in a child that first writes a letter for each time it was started. */
function supervise(work: string, more: object = {}): Child {
  const program = join(folder, 'child.mjs');
  writeFileSync(
    program,
    `import { appendFileSync } from 'node:fs';
     appendFileSync('${folder}/starts', 'x');
     process.on('disconnect', () => process.exit(0));
     const ready = () => process.send({ ready: true });
     const beat = () => setInterval(() => process.send({ beat: true }), 200);
     ${work}`,
  );
  child = new Supervised({
    ...{ name: 'A child', program, cwd: folder, execArgv: [], environment: () => ({}) },
    onBroken: (sentence: string) => void broken.push(sentence),
    ...more,
  });
  return child;
}
const starts = () => {
  try {
    return readFileSync(join(folder, 'starts'), 'utf8').length;
  } catch {
    return 0;
  }
};
async function until(look: () => boolean, what: string): Promise<void> {
  const end = Date.now() + 20_000;
  while (!look()) {
    if (Date.now() > end) throw new Error(`waited in vain until ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

test('a child that ends is started again, and one that is killed', async () => {
  const one = supervise(`ready(); setTimeout(() => process.exit(1), 30);`);
  expect(await one.start()).toEqual({ ready: true });
  await until(() => starts() >= 3, 'it was started again and again');
  expect(broken).toEqual([]);
});

test('a child that stays and is killed is another process then', async () => {
  const one = supervise(`ready(); beat();`);
  await one.start();
  const before = one.pid!;
  process.kill(before, 'SIGKILL');
  await until(() => one.pid !== before, 'another runs');
});

test('a child with a heartbeat that hangs is ended and started again', async () => {
  const one = supervise(`ready(); beat();`, { heartbeat: true });
  await one.start();
  const before = one.pid!;
  process.kill(before, 'SIGSTOP');
  await until(() => one.pid !== before, 'another runs');
});

test('a child that could not be heard while the machine stood still is given its time anew', async () => {
  const one = supervise(`ready(); beat();`, { heartbeat: true });
  await one.start();
  const before = one.pid!;
  const long = Date.now() - 60_000;
  Object.assign(one, { beatAt: long, lookedAt: long });
  one.checkHeartbeat();
  expect(one.beatAt).toBeGreaterThan(long);
  // One that hangs still is found out.
  process.kill(before, 'SIGSTOP');
  await until(() => one.pid !== before, 'another runs');
});

test('a child that never was ready, or says that starting again is no use, is not', async () => {
  expect(await supervise(`process.exit(3);`).start()).toBeNull();
  expect(broken).toEqual(['A child cannot start; what it said is above.']);
  const later = supervise(`ready(); setTimeout(() => process.exit(78), 50);`);
  await later.start();
  await until(() => broken.length === 2, 'it is given up');
  expect(starts()).toBe(2);
});
