import { createServer, type Server } from 'node:http';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { SailingBot } from '../../../../standins/src/sailing-bot/server.ts';
import type { BotView } from '@night-bell/core/contracts/bots';
import type { BotReply } from '@night-bell/core/rehearse/test-call';
import type { Database } from '../../database/connection.ts';
import { Outgoing } from '../../outgoing/outgoing.ts';
import { type Browser, openNight, personSignedIn } from '../../server.testing.ts';
import { askBot } from './ask-bot.ts';

const key = 'key of the sailing bot';
const bot = new SailingBot(key);
let strange: Server;
let answer: (respond: { json: (value: unknown) => void; text: (value: string) => void }) => void;
let ports: { bot: number; strange: number };
let admin: Browser;
let supervisor: Browser;
let database: Database;
let drop: () => Promise<void>;

beforeAll(async () => {
  strange = createServer((_request, response) =>
    answer({ json: (value) => response.end(JSON.stringify(value)), text: (value) => response.end(value) }),
  );
  await new Promise<void>((resolve) => strange.listen(0, '127.0.0.1', resolve));
  ports = { bot: await bot.listen(0), strange: (strange.address() as { port: number }).port };
  const opened = await openNight(undefined, [], {
    allowedAddresses: [`127.0.0.1:${ports.bot}`, `127.0.0.1:${ports.strange}`],
  });
  ({ admin, database, drop } = opened);
  supervisor = (await personSignedIn(opened.night, admin, 'Sue Super', 'supervisor')).browser;
});
afterAll(async () => {
  await drop();
  await bot.close();
  strange.closeAllConnections();
  strange.close();
});

const make = async (more: object) =>
  (await admin.send<BotView>('POST', '/api/bots', { name: `Bot ${Math.random()}`, ...more })).body;
const tryIt = async ({ id }: BotView, said: string, who = admin) =>
  (await who.send<BotReply>('POST', `/api/bots/${id}/try`, { said, turn: said === '' ? 1 : 2 })).body;

test('a bot is tried before any caller meets it; its key is kept sealed and never shown', async () => {
  const made = await make({ address: `http://127.0.0.1:${ports.bot}/`, key });
  expect(made).toMatchObject({ hasKey: true, limitSeconds: 4, mostTurns: 12, uses: 0 });
  expect(JSON.stringify(made)).not.toContain(key);
  const row = await database('bot').where({ id: made.id }).first('key_sealed');
  expect(row!.key_sealed).not.toContain(key);
  expect(await tryIt(made, '')).toMatchObject({
    answer: { then: 'listen', say: expect.stringContaining('Which crossing') },
  });
  expect(await tryIt(made, 'To Stornay', supervisor)).toMatchObject({
    answer: { facts: { crossing: 'Stornay' }, say: expect.stringContaining('11:20') },
  });
  const wrong = await make({ address: `http://127.0.0.1:${ports.bot}/`, key: 'another key' });
  expect(await tryIt(wrong, '')).toEqual({ answer: null, why: 'fault' });
  await admin.send('POST', `/api/bots/${made.id}/retire`, {}, { 'if-match': `"${made.version}"` });
  expect((await admin.send('POST', `/api/bots/${made.id}/try`, { said: '' })).status).toBe(409);
});

describe('what a bot may answer', () => {
  const outgoing = new Outgoing(() => Promise.resolve(new Set([`127.0.0.1:${ports.strange}`])));
  const ask = (withinSeconds = 2) =>
    askBot(
      outgoing,
      { address: `http://127.0.0.1:${ports.strange}/`, key: null },
      {
        ...{ callId: 'c', turn: 1, said: '', language: null, from: '+13605550117', to: '+12065550140' },
        ...{ found: {}, withinSeconds },
      },
    );

  test('the least is a sentence; what is left out is as usual', async () => {
    answer = ({ json }) => json({ say: 'Good evening.' });
    const { answer: got } = await ask();
    expect(got).toEqual({ say: 'Good evening.', then: 'listen', facts: {}, language: null });
  });

  test.each([
    ['text that is no JSON', '<html>Hello</html>'],
    ['a list', '[]'],
    ['nothing', ''],
    ['a word for what follows that nobody knows', '{"say":"x","then":"dance"}'],
    ['a number for words', '{"say":7}'],
    ['facts in facts', '{"say":"x","facts":{"a":{"b":"c"}}}'],
    ['a language there is none of', '{"say":"x","language":"loud"}'],
    ['words without end', JSON.stringify({ say: 'x'.repeat(1_001) })],
    [
      'facts without end',
      JSON.stringify({ facts: Object.fromEntries(Array.from({ length: 21 }, (_, i) => [`f${i}`, 'x'])) }),
    ],
  ])('%s is nonsense', async (_, said) => {
    answer = ({ text }) => text(said);
    expect(await ask()).toEqual({ answer: null, why: 'nonsense' });
  });

  test('50 MB are cut off, silence has its end, and one that is away is a fault', async () => {
    answer = ({ text }) => text('x'.repeat(50 * 1024 * 1024));
    expect(await ask(10)).toEqual({ answer: null, why: 'tooLarge' });
    answer = () => undefined;
    expect(await ask(0.2)).toEqual({ answer: null, why: 'slow' });
    const away = { address: 'http://127.0.0.1:1/', key: null };
    const asked = { callId: 'c', turn: 1, said: '', language: null, from: '', to: '', found: {} };
    expect(await askBot(outgoing, away, { ...asked, withinSeconds: 2 })).toEqual({
      ...{ answer: null, why: 'fault' },
    });
  });
});

test('a test call talks with the bot for real, and the words of the caller are its turns', async () => {
  const { id: botId } = await make({ address: `http://127.0.0.1:${ports.bot}/`, key });
  const step = (exits: object) => ({ kind: 'bot', config: { botId, waitSeconds: 5 }, exits });
  const end = { kind: 'end', config: {}, exits: {} };
  const draft = { start: 'b', steps: { b: step({ done: 'e', handOver: 'e', noAnswer: 'e' }), e: end } };
  const called = async (says: string[]) =>
    (
      await admin.send<{ story: Record<string, unknown>[]; assumptions: string[] }>(
        'POST',
        '/api/test-calls',
        {
          ...{ to: '+12065550140', from: '+13605550117', draft, says },
        },
      )
    ).body;
  const { story, assumptions } = await called(['Gull Harbour please', 'No, thank you']);
  expect(assumptions).toContain('botWasAsked');
  expect(story.filter(({ kind }) => kind === 'botSaid')).toMatchObject([
    { turn: 1 },
    { turn: 2, found: { crossing: 'Gull Harbour' } },
    { turn: 3, words: 'Fair winds.' },
  ]);
  // Of whom nothing is heard the bot makes what it makes of silence.
  const silent = await called([]);
  expect(silent.story.filter(({ kind }) => kind === 'saidToBot').length).toBeGreaterThan(1);
});
