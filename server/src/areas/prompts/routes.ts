import { objectSchema } from '@night-bell/core/contracts/item';
import Joi from 'joi';
import { job, promptsToSpeak } from '@night-bell/core/contracts/jobs';
import { broughtSound, earlierSound, prompts } from '@night-bell/core/contracts/prompts';
import { type PromptKind, promptKinds } from '@night-bell/core/sound/kinds';
import { mostSoundBytes } from '@night-bell/core/sound/limits';
import { editors, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { itemRoutes } from '../../http/item-routes.ts';
import { publishRoute } from '../../http/publish-route.ts';
import { idParams, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { defaultSound } from '../../sound/default-sounds.ts';
import { authorOf } from '../../spine/items.ts';
import { needsVoice } from '@night-bell/core/sound/needs-voice';
import { bring, soundFile, soundHeard, soundsOf, speak, spoken, takeEarlier } from './sounds.ts';
import { promptItem, publishPrompt } from './store.ts';

export function promptRoutes(services: Services): Route[] {
  const { database, sounds, jobs } = services;
  return [
    ...itemRoutes(services, promptItem),
    route({
      method: 'POST',
      path: `${prompts.path}/:id/speak`,
      area: prompts.area,
      summary: 'Speak the words of a prompt; callers hear it once it is published',
      who: editors,
      perMinute: 120,
      params: idParams,
      reply: objectSchema(prompts.view),
      errors: ['notFound'],
      handle: async ({ params, caller }) => {
        await speak(database, sounds, params.id, authorOf(signedIn(caller).personId));
        return promptItem.get(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: `${prompts.path}/speak`,
      area: prompts.area,
      summary: 'Speak many prompts as a job: those named, or all whose sound is missing or says other words',
      who: editors,
      body: objectSchema(promptsToSpeak),
      reply: objectSchema(job),
      errors: ['notNow'],
      handle: async ({ body, caller }) => {
        const named = new Set(body.promptIds);
        const promptIds = (await promptItem.list(database))
          .filter((prompt) => (named.size === 0 ? needsVoice(prompt) : named.has(prompt.id)))
          .map(({ id }) => id);
        if (promptIds.length === 0) throw new Problem('notNow', 'Every prompt says what is written.');
        const { publish } = body;
        return jobs.begin('speakPrompts', { promptIds, publish }, signedIn(caller).personId);
      },
    }),
    route({
      method: 'POST',
      path: `${prompts.path}/:id/sound`,
      area: prompts.area,
      summary: 'Bring a sound for a prompt (WAV, MP3 or Ogg); callers hear it once it is published',
      who: editors,
      perMinute: 60,
      bodyLimit: 2 * mostSoundBytes,
      params: idParams,
      body: objectSchema(broughtSound),
      reply: objectSchema(prompts.view),
      errors: ['notFound'],
      handle: async ({ params, body, caller }) => {
        const file = Buffer.from(body.file, 'base64');
        const { recorded } = body;
        await bring(database, sounds, params.id, { file, recorded }, authorOf(signedIn(caller).personId));
        return promptItem.get(database, params.id);
      },
    }),
    route({
      method: 'GET',
      path: `${prompts.path}/:id/sounds`,
      area: prompts.area,
      summary: 'The sounds a prompt had, newest first: the last ten, and what callers hear',
      who: readers,
      params: idParams,
      reply: Joi.array().items(objectSchema(earlierSound).optional()),
      errors: ['notFound'],
      handle: async ({ params }) => {
        await promptItem.get(database, params.id);
        return soundsOf(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: `${prompts.path}/:id/sounds/:soundId/take`,
      area: prompts.area,
      summary: 'Take an earlier sound again, with the words it had; callers hear it once it is published',
      who: editors,
      params: Joi.object<{ id: string; soundId: string }>({
        id: Joi.string().guid().required(),
        soundId: Joi.string().guid().required(),
      }),
      ifMatch: true,
      reply: objectSchema(prompts.view),
      errors: ['notFound', 'changedMeanwhile', 'versionNeeded', 'notNow'],
      handle: async ({ params, version, caller }) => {
        const author = authorOf(signedIn(caller).personId);
        await database.transaction((trx) =>
          takeEarlier(trx, params.id, { soundId: params.soundId, version }, author),
        );
        return promptItem.get(database, params.id);
      },
    }),
    route({
      method: 'GET',
      path: '/api/sounds/:id',
      area: prompts.area,
      summary: 'A sound as callers hear it (WAV, G.711)',
      who: readers,
      params: idParams,
      reply: Joi.any(),
      errors: ['notFound'],
      handle: async ({ params, reply }) => {
        await reply.header('content-type', 'audio/wav').send(await soundFile(database, params.id));
        return null;
      },
    }),
    route({
      method: 'GET',
      path: `${prompts.path}/:id/heard`,
      area: prompts.area,
      summary: 'What callers hear of a prompt now: the sound that is published (WAV, G.711)',
      who: readers,
      params: idParams,
      reply: Joi.any(),
      errors: ['notFound'],
      handle: async ({ params, reply }) => {
        await reply.header('content-type', 'audio/wav').send(await soundHeard(database, params.id));
        return null;
      },
    }),
    route({
      method: 'GET',
      path: '/api/spoken-words',
      area: prompts.area,
      summary: 'Words that a voice says to callers, as they hear them (WAV)',
      who: readers,
      perMinute: 60,
      query: Joi.object<{ words: string; language: string }>({
        words: Joi.string().trim().min(1).max(300).required(),
        language: Joi.string().max(10).default('en'),
      }),
      reply: Joi.any(),
      errors: [],
      handle: async ({ query, reply }) => {
        await reply.header('content-type', 'audio/wav').send(await spoken(sounds, query));
        return null;
      },
    }),
    route({
      method: 'GET',
      path: '/api/default-sounds/:kind',
      area: prompts.area,
      summary: 'The sound played where a prompt of this kind has none (WAV, G.711)',
      who: readers,
      params: Joi.object<{ kind: PromptKind }>({
        kind: Joi.string()
          .valid(...promptKinds)
          .required(),
      }),
      reply: Joi.any(),
      errors: [],
      handle: async ({ params, reply }) => {
        await reply.header('content-type', 'audio/wav').send(await defaultSound(params.kind));
        return null;
      },
    }),
    publishRoute(services, prompts, promptItem.get, publishPrompt),
  ];
}
