import Joi from 'joi';
import { objectSchema } from '@night-bell/core/contracts/item';
import {
  recordingSettings,
  recordingSettingsPath,
  recordingSettingsView,
  recordingView,
} from '@night-bell/core/contracts/recordings';
import { editors, operators, readers, roles } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { type Caller, idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { findCall } from '../calls/calls.queries.ts';
import { checkDirects } from '../people/directing.ts';
import { hearerOf } from './hearing.ts';
import {
  readRecordingSettings,
  recordingsHeld,
  recordTalkHeard,
  talksOf,
  writeRecordingSettings,
} from './recordings.queries.ts';

const area = 'Recordings';

export function recordingRoutes({ database, live, recordings }: Services): Route[] {
  const view = async () => ({
    settings: await readRecordingSettings(database),
    held: { ...(await recordingsHeld(database)), isKept: recordings !== null },
  });

  /** A supervisor pauses for the people they look after; whoever talks, for themselves. */
  async function mustPause(me: Caller, callId: string): Promise<void> {
    const recording = live.exchange.view().calls.get(callId)?.recording;
    if (recording == null) throw new Problem('notNow', 'Nothing of this call is recorded now.');
    if (recording.personId === me.personId) return;
    if (!operators.includes(me.role)) throw new Problem('notAllowed', 'That is somebody else’s talk.');
    await checkDirects(database, me, recording.personId);
  }

  return [
    route({
      method: 'GET',
      path: '/api/calls/:id/recordings',
      area,
      summary: 'The talks of a call that were recorded, and which of them you may hear',
      who: roles,
      params: idParams,
      reply: Joi.array().items(objectSchema(recordingView).optional()),
      errors: [],
      handle: async ({ params, caller }) => {
        const me = signedIn(caller);
        const [talks, mayHear] = await Promise.all([talksOf(database, params.id), hearerOf(database, me)]);
        return talks
          .filter((talk) => readers.includes(me.role) || talk.personId === me.personId)
          .map(({ file: _file, teamId, ...talk }) => {
            const heard = mayHear({ personId: talk.personId, teamId });
            return { ...talk, sound: heard ? talk.sound : null, mayHear: heard };
          });
      },
    }),
    route({
      method: 'GET',
      path: '/api/calls/:id/recordings/:part/sound',
      area,
      summary:
        'What was recorded of a talk (WAV, G.711). That you listen stands in the history of whose talk it was',
      who: roles,
      params: Joi.object<{ id: string; part: number }>({
        id: Joi.string().guid().required(),
        part: Joi.number().integer().min(1).max(1_000).required(),
      }),
      reply: Joi.any(),
      errors: ['notFound'],
      handle: async ({ params, caller, reply }) => {
        const me = signedIn(caller);
        const talk = (await talksOf(database, params.id)).find(({ part }) => part === params.part);
        if (talk === undefined)
          throw new Problem('notFound', 'This talk was not recorded, or it is deleted.');
        if (!(await hearerOf(database, me))(talk))
          throw new Problem(
            'notAllowed',
            `Talks of ${talk.personName} are heard by others. Ask a supervisor.`,
          );
        const sound = talk.file === null ? null : ((await recordings?.read(talk.file)) ?? null);
        if (sound === null) throw new Problem('notFound', 'The sound of this talk is not there.');
        const ended = await findCall(database, params.id);
        const from = ended?.call.caller ?? '';
        await recordTalkHeard(database, talk, from, me.personId, authorOf(me.personId));
        await reply.header('content-type', 'audio/wav').send(sound);
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/calls/:id/recording',
      area,
      summary: 'Pause the recording of a talk that goes on now, or let it go on',
      who: roles.filter((role) => role !== 'auditor'),
      params: idParams,
      body: Joi.object<{ paused: boolean }>({ paused: Joi.boolean().strict().required() }),
      reply: nothing.allow(null),
      errors: ['notNow', 'exchangeAway'],
      handle: async ({ params, body, caller }) => {
        const me = signedIn(caller);
        if (!live.ready)
          throw new Problem('exchangeAway', 'The exchange is being rebuilt. Try again in a moment.');
        await mustPause(me, params.id);
        await live.command(
          { kind: 'recordingPaused', callId: params.id, personId: me.personId, paused: body.paused },
          me.personId,
        );
        return null;
      },
    }),
    route({
      method: 'GET',
      path: recordingSettingsPath,
      area,
      summary: 'How long recordings are kept, whether agents hear their own, and what is kept now',
      who: readers,
      reply: objectSchema(recordingSettingsView),
      errors: [],
      handle: view,
    }),
    route({
      method: 'PUT',
      path: recordingSettingsPath,
      area,
      summary: 'Change how long recordings are kept, and whether agents hear their own',
      who: editors,
      body: objectSchema(recordingSettings),
      reply: objectSchema(recordingSettingsView),
      errors: [],
      handle: async ({ body }) => {
        await writeRecordingSettings(database, body);
        return view();
      },
    }),
  ];
}
