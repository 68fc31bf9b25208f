import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight } from '../../server.testing.ts';

let night: NightBell;
let admin: Browser;
let drop: () => Promise<void>;
let key: string;

beforeAll(async () => {
  ({ night, admin, drop } = await openNight());
  const made = await admin.send<{ id: string; version: number }>('POST', '/api/script-keys', {
    ...{ name: 'Documented', role: 'administrator', areas: [] },
  });
  key = (
    await admin.send<{ secret: string }>(
      'POST',
      `/api/script-keys/${made.body.id}/secret`,
      {},
      { 'if-match': '"1"' },
    )
  ).body.secret;
});
afterAll(() => drop());

/** The commands of the page, one after the other, with what later ones take from the answers. */
function commands(): { command: string; gives: string | null }[] {
  const page = readFileSync(new URL('../../../../docs/api.md', import.meta.url), 'utf8');
  const lines = [...page.matchAll(/```sh\n([\s\S]*?)```/g)].flatMap(([, block]) => block!.trim().split('\n'));
  return lines.flatMap((line, index) => {
    if (!line.startsWith('curl')) return [];
    const gives = /^# (\w+) is the id/.exec(lines[index + 1] ?? '')?.[1] ?? null;
    return [{ command: line, gives }];
  });
}

test('the commands of the documentation do what it says', async () => {
  const known: Record<string, string> = { ADDRESS: '', KEY: key };
  const all = commands();
  expect(all.length).toBeGreaterThanOrEqual(11);
  for (const { command, gives } of all) {
    const filled = command.replace(/\$(\w+)/g, (_, name: string) => known[name] ?? `no ${name}`);
    const method = /-X (\w+)/.exec(filled)?.[1] ?? 'GET';
    const url = /curl (?:-X \w+ )?"([^"]+)"/.exec(filled)![1]!;
    const headers = Object.fromEntries(
      [...filled.matchAll(/-H (?:"([^"]+)"|'([^']+)')/g)].map(([, double, single]) => {
        const [name, ...rest] = (double ?? single!).split(': ');
        return [name!.toLowerCase(), rest.join(': ')];
      }),
    );
    const payload = /-d '([^']+)'/.exec(filled)?.[1];
    const answer = await night.app.inject({
      ...{ method: method as 'GET', url, headers },
      ...(payload === undefined ? {} : { payload }),
    });
    expect(answer.statusCode, `${command}\n${answer.body}`).toBe(200);
    if (gives !== null) known[gives] = answer.json<{ id: string }>().id;
  }
});
