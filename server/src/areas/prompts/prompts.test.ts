import { createMp3Encoder, createOggEncoder } from 'wasm-media-encoders';
import wavefile from 'wavefile';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { JobView } from '@night-bell/core/contracts/jobs';
import type { EarlierSound, PromptView } from '@night-bell/core/contracts/prompts';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, personSignedIn, until } from '../../server.testing.ts';
import { Sounds } from '../../sound/sounds.ts';
import { espeak, NoVoice, type Voice } from '../../sound/voice.ts';

interface Refusal {
  code: string;
  detail: string;
  errors: { path: string; detail: string }[];
}

let night: NightBell;
let drop: () => Promise<void>;
let admin: Browser;
/** The real voice, until a test takes it away. */
let voice: Voice = espeak;

beforeAll(async () => {
  const sounds = new Sounds({ speak: (words, language) => voice.speak(words, language) }, null);
  ({ night, admin, drop } = await openNight(undefined, [], { sounds }));
});
afterAll(() => drop());

const made = async (name: string, words = 'Welcome aboard. We sail in ten minutes.') =>
  (
    await admin.send<PromptView>('POST', '/api/prompts', {
      name,
      kind: 'greeting',
      language: 'en',
      personId: null,
      words,
    })
  ).body;
const post = <T = PromptView>(prompt: PromptView, verb: string, body: object = {}) =>
  admin.send<T>('POST', `/api/prompts/${prompt.id}/${verb}`, body, { 'if-match': `"${prompt.version}"` });

/** A tone as a WAV file, in base64. */
function tone(seconds: number, size: number, rate = 44_100, channels = 1): string {
  const one = Array.from({ length: seconds * rate }, (_, i) =>
    Math.round(size * 32_767 * Math.sin((2 * Math.PI * 440 * i) / rate)),
  );
  const wav = new wavefile.WaveFile();
  wav.fromScratch(channels, rate, '16', channels === 1 ? one : [one, one]);
  return Buffer.from(wav.toBuffer()).toString('base64');
}

test('words are spoken, and heard once they are published; changed words are not published with an old sound', async () => {
  const prompt = await made('Spoken');
  const spoken = (await post(prompt, 'speak')).body;
  expect(spoken).toMatchObject({
    heard: null,
    sound: { origin: 'spoken', current: true, silent: false, clipping: false },
  });
  expect(spoken.sound!.seconds).toBeGreaterThan(1.5);
  expect(Math.max(...spoken.sound!.peaks)).toBeGreaterThan(20);
  const live = (await post(spoken, 'publish')).body;
  expect(live.heard?.id).toBe(spoken.sound!.id);
  expect(live.seconds).toBe(Math.ceil(live.heard!.seconds));
  const { name, kind, language, personId } = live;
  const changed = (
    await admin.send<PromptView>(
      'PUT',
      `/api/prompts/${live.id}`,
      { name, kind, language, personId, words: 'Welcome back.' },
      { 'if-match': `"${live.version}"` },
    )
  ).body;
  expect(changed).toMatchObject({ sound: { current: false }, publishedWords: prompt.words });
  const refused = await post<Refusal>(changed, 'publish');
  expect(refused.body.detail).toContain('other words than are written');
  const again = (await post(changed, 'speak')).body;
  expect(again.heard?.id).toBe(live.heard!.id);
  expect((await post(again, 'publish')).body.heard!.id).toBe(again.sound!.id);
});

test('a sound is heard as the telephone has it: WAV, G.711, 8 kHz, one channel', async () => {
  const prompt = await made('Brought');
  const brought = (await post(prompt, 'sound', { file: tone(2, 0.5, 44_100, 2) })).body;
  expect(brought.sound).toMatchObject({ origin: 'brought', current: true });
  expect(brought.sound!.seconds).toBeCloseTo(2, 1);
  expect(brought.sound!.loudness).toBeCloseTo(-9.03, 1);
  const file = await night.app.inject({
    method: 'GET',
    url: `/api/sounds/${brought.sound!.id}`,
    headers: { cookie: admin.cookieHeader },
  });
  const wav = new wavefile.WaveFile(file.rawPayload);
  expect(wav.fmt).toMatchObject({ audioFormat: 7, sampleRate: 8_000, numChannels: 1 });
  expect((wav.data as { chunkSize: number }).chunkSize).toBeCloseTo(16_000, -2);
});

test.each([
  [
    'what only claims to be a sound',
    Buffer.from('RIFF....WAVE, or so it says').toString('base64'),
    'This is no WAV, MP3 or Ogg file that can be read. Save it as one of these and bring it again.',
  ],
  ['silence', tone(1, 0.0005), 'Nothing can be heard in this file. Record it again, louder.'],
  ['one that is too long', tone(301, 0.5, 4_000), 'This is 301 seconds long; at most 300 are taken. Cut it.'],
])('%s is refused in a sentence, and the sound before stays', async (what, file, detail) => {
  const prompt = await made(`Refusing ${what}`);
  const before = (await post(prompt, 'sound', { file: tone(1, 0.5) })).body;
  const { status, body } = await post<Refusal>(before, 'sound', { file });
  expect([status, body.errors]).toEqual([422, [{ path: '/file', detail }]]);
  const after = await admin.send<{ item: PromptView }>('GET', `/api/prompts/${prompt.id}`);
  expect(after.body.item.sound!.id).toBe(before.sound!.id);
});

test.each(['audio/mpeg', 'audio/ogg'] as const)(
  'a file of %s is read as what it is, whatever it is called',
  async (type) => {
    const rate = 44_100;
    const encoder = await (type === 'audio/mpeg' ? createMp3Encoder() : createOggEncoder());
    encoder.configure({
      channels: 2,
      sampleRate: rate,
      ...(type === 'audio/mpeg' ? { vbrQuality: 2 } : { vbrQuality: 3 }),
    });
    const samples = Float32Array.from(
      { length: 2 * rate },
      (_, i) => 0.5 * Math.sin((2 * Math.PI * 440 * i) / rate),
    );
    const parts = [Buffer.from(encoder.encode([samples, samples])), Buffer.from(encoder.finalize())];
    const prompt = await made(`As ${type}`);
    const { body } = await post(prompt, 'sound', { file: Buffer.concat(parts).toString('base64') });
    expect(body.sound!.seconds).toBeCloseTo(2, 0);
    // A sine of half the range stands 9 dB below full.
    expect(Math.abs(body.sound!.loudness! + 9)).toBeLessThan(1.5);
  },
);

test('a broken MP3 and a broken Ogg are refused in a sentence', async () => {
  const prompt = await made('Broken');
  for (const begins of ['ID3 and nothing else', 'OggS and nothing else']) {
    const { body } = await post<Refusal>(prompt, 'sound', { file: Buffer.from(begins).toString('base64') });
    expect(body.errors[0]!.detail).toContain('no WAV, MP3 or Ogg file');
  }
});

test('too loud is said, and taken', async () => {
  const prompt = await made('Too loud');
  expect((await post(prompt, 'sound', { file: tone(1, 1.6) })).body.sound).toMatchObject({ clipping: true });
});

test('without the voice program, or with a language it does not have, one is told what to do', async () => {
  const prompt = await made('Voiceless');
  voice = {
    speak: () =>
      Promise.reject(
        new NoVoice('The voice program espeak-ng is not there. Install it, or bring a sound as a file.'),
      ),
  };
  const gone = await post<Refusal>(prompt, 'speak');
  voice = espeak;
  expect([gone.status, gone.body.errors[0]!.detail]).toEqual([
    422,
    'The voice program espeak-ng is not there. Install it, or bring a sound as a file.',
  ]);
  await expect(espeak.speak('Hello', 'zz')).rejects.toThrow('The voice has nothing for zz');
});

test('only those who edit the set-up give prompts their sounds', async () => {
  const prompt = await made('Guarded');
  const { browser } = await personSignedIn(night, admin, 'Sana Super', 'supervisor');
  expect((await browser.send('POST', `/api/prompts/${prompt.id}/speak`)).status).toBe(403);
  expect((await browser.send('GET', `/api/prompts/${prompt.id}`)).status).toBe(200);
});

test('an earlier sound is listened to, and taken again with the words it had', async () => {
  const prompt = await made('Winter', 'We sail at six.');
  const first = (await post(prompt, 'speak')).body;
  const { name, kind, language, personId } = first;
  const summer = (
    await admin.send<PromptView>(
      'PUT',
      `/api/prompts/${prompt.id}`,
      { name, kind, language, personId, words: 'We sail at nine.' },
      { 'if-match': `"${first.version}"` },
    )
  ).body;
  const second = (await post((await post(summer, 'speak')).body, 'publish')).body;
  const sounds = await admin.send<EarlierSound[]>('GET', `/api/prompts/${prompt.id}/sounds`);
  expect(sounds.body.map(({ words }) => words)).toEqual(['We sail at nine.', 'We sail at six.']);
  expect((await post<Refusal>({ ...second, version: 1 }, `sounds/${first.sound!.id}/take`)).status).toBe(412);
  const back = (await post(second, `sounds/${first.sound!.id}/take`)).body;
  expect(back).toMatchObject({
    ...{ words: 'We sail at six.', publishedWords: 'We sail at nine.' },
    ...{ sound: { id: first.sound!.id, current: true }, heard: { id: second.sound!.id } },
  });
  expect((await post(back, 'publish')).body.heard!.id).toBe(first.sound!.id);
  const another = await made('Another');
  expect((await post<Refusal>(another, `sounds/${first.sound!.id}/take`)).status).toBe(404);
});

describe('a prompt in another language', () => {
  const inLanguage = (language: string, translationOf: string | null, name = `In ${language}`) => ({
    ...{ name, kind: 'greeting', language, personId: null, words: 'Bienvenue à bord.', translationOf },
  });
  const add = <T = PromptView>(draft: object) => admin.send<T>('POST', '/api/prompts', draft);

  test('stands behind the one that plans name, one for each language', async () => {
    const original = await made('Boarding');
    const french = await add(inLanguage('fr', original.id));
    expect(french.body).toMatchObject({ translationOf: original.id, language: 'fr' });
    const twice = await add<Refusal>(inLanguage('fr', original.id, 'Again'));
    expect(twice.body.errors).toEqual([
      { path: '/language', detail: 'In fr says it in French already. Choose another language.' },
    ]);
    expect((await add<Refusal>(inLanguage('en', original.id, 'Own'))).body.errors[0]).toMatchObject({
      ...{ path: '/language', detail: 'Boarding says it in English already. Choose another language.' },
    });
    const behind = await add<Refusal>(inLanguage('es', french.body.id, 'Behind'));
    expect(behind.body.errors[0]).toMatchObject({ path: '/translationOf' });
    // What has translations stands for itself, and takes none of their languages.
    const put = (draft: object) =>
      admin.send<Refusal>('PUT', `/api/prompts/${original.id}`, draft, {
        'if-match': `"${original.version}"`,
      });
    const other = await made('Disembarking');
    const moved = await put(inLanguage('de', other.id));
    expect(moved.body.errors[0]!.path).toBe('/translationOf');
    expect((await put(inLanguage('fr', null, 'Boarding'))).body.errors[0]!.path).toBe('/language');
    expect((await add<Refusal>(inLanguage('french', null))).body.errors[0]).toMatchObject({
      ...{ path: '/language', detail: 'A language looks like en or fr-CA.' },
    });
  });

  test('is heard by callers who chose it once it is published, and is spoken by a voice of it', async () => {
    const original = await made('Crossing');
    await post(original, 'publish');
    const { body: french } = await add(inLanguage('fr', original.id, 'Traversée'));
    const heard = () => night.live.exchange.view().prompts.get(original.id)?.translations ?? {};
    await until(() => night.live.exchange.view().prompts.has(original.id), 'the exchange knows of it');
    expect(heard()).toEqual({});
    const spoken = (await post(french, 'speak')).body;
    expect(spoken.sound).toMatchObject({ origin: 'spoken', current: true });
    await post(spoken, 'publish');
    await until(() => heard().fr === french.id, 'it is heard');
    const { version } = (await admin.send<{ item: PromptView }>('GET', `/api/prompts/${french.id}`)).body
      .item;
    await admin.send('POST', `/api/prompts/${french.id}/retire`, {}, { 'if-match': `"${version}"` });
    await until(() => heard().fr === undefined, 'it is heard no more');
  });
});

test('what somebody spoke into the browser is told from what was brought as a file', async () => {
  const prompt = await made('Recorded');
  const recorded = await post(prompt, 'sound', { file: tone(2, 0.5), recorded: true });
  expect(recorded.body.sound!.origin).toBe('recorded');
  expect((await post(prompt, 'sound', { file: tone(2, 0.4) })).body.sound!.origin).toBe('brought');
  const { body } = await admin.send<EarlierSound[]>('GET', `/api/prompts/${prompt.id}/sounds`);
  expect(body.map(({ origin }) => origin)).toEqual(['brought', 'recorded']);
});

describe('many prompts', () => {
  const ended = (id: string): Promise<JobView> =>
    until(async () => {
      const { body } = await admin.send<JobView>('GET', `/api/jobs/${id}`);
      return body.endedAt === null ? null : body;
    }, 'the job ends');
  const begin = <T = JobView>(body: object) => admin.send<T>('POST', '/api/prompts/speak', body);
  const read = async (id: string) =>
    (await admin.send<{ item: PromptView }>('GET', `/api/prompts/${id}`)).body.item;

  test('are spoken in one go, published if wished, and who cannot be is said', async () => {
    const [one, other] = [await made('First of many'), await made('Second of many')];
    const strange = (
      await admin.send<PromptView>('POST', '/api/prompts', {
        ...{ name: 'In no known tongue', kind: 'greeting', language: 'qq', personId: null, words: 'Qu.' },
      })
    ).body;
    const promptIds = [one.id, other.id, strange.id];
    const begun = (await begin({ promptIds, publish: true })).body;
    expect(begun).toMatchObject({ title: 'Speaking 3 prompts', total: 3, state: 'waiting', by: 'Ada Admin' });
    expect(await ended(begun.id)).toMatchObject({
      ...{ state: 'done', done: 3 },
      outcome: expect.stringMatching(
        /^2 prompts spoken and published. Not In no known tongue: .*voice/,
      ) as string,
    });
    expect(await read(one.id)).toMatchObject({ sound: { origin: 'spoken' }, publishedWords: one.words });
    // Without naming any: all that need it. Those that say what is written stay as they are.
    const before = (await read(other.id)).sound!.id;
    const all = (await begin({})).body;
    await ended(all.id);
    expect((await read(other.id)).sound!.id).toBe(before);
  });

  test('need not be spoken when they all say what is written; supervisors neither begin nor stop such a job', async () => {
    const prompt = await made('Spoken already');
    await post(prompt, 'speak');
    const { id } = (await begin({ promptIds: [prompt.id] })).body;
    expect((await ended(id)).outcome).toBe('0 prompts spoken.');
    const { browser: supervisor } = await personSignedIn(night, admin, 'Job Looker', 'supervisor');
    expect((await supervisor.send('POST', '/api/prompts/speak', {})).status).toBe(403);
    expect((await supervisor.send('POST', `/api/jobs/${id}/stop`, {})).status).toBe(403);
    expect((await supervisor.send<JobView[]>('GET', '/api/jobs')).body).toEqual([]);
    expect((await admin.send<JobView[]>('GET', '/api/jobs')).body.length).toBeGreaterThan(0);
    expect((await admin.send('GET', `/api/jobs/${prompt.id}`)).status).toBe(404);
  });
});
