import type { ToGateway } from '@night-bell/core/devices/protocol';
import type { Effect } from '@night-bell/core/exchange/kernel/effects';

/** What a gateway is told of legs it carries: each message with the leg whose gateway hears it. */
export interface LegMessage {
  leg: string;
  message: ToGateway;
}

/** Effects that only say what becomes of legs, in the words of the device protocol; none for all others. */
export function legMessages(name: string, effect: Effect): LegMessage[] {
  switch (effect.kind) {
    case 'takeLine': {
      const { leg, line } = effect;
      return [{ leg, message: { kind: 'takeLine', effect: name, leg, line } }];
    }
    case 'stopRinging':
      return [{ leg: effect.leg, message: { kind: 'stopRinging', effect: name, leg: effect.leg } }];
    case 'connect':
      return effect.legs.map((leg) => ({
        leg,
        message: { kind: 'connected', effect: name, callId: effect.callId, leg },
      }));
    case 'release': {
      const { callId, leg } = effect;
      return [{ leg, message: { kind: 'released', effect: name, callId, leg } }];
    }
    case 'play': {
      const { callId, leg, prompt, about, promptId } = effect;
      const said = {
        ...(about === undefined ? {} : { about }),
        ...(promptId === undefined ? {} : { promptId }),
      };
      return [{ leg, message: { kind: 'play', effect: name, callId, leg, prompt, ...said } }];
    }
    case 'say': {
      const { callId, leg, promptId, words, seconds, keys, optional = false } = effect;
      const said = { promptId, words, seconds, keys, ...(optional ? { optional } : {}) };
      return [{ leg, message: { kind: 'say', effect: name, callId, leg, ...said } }];
    }
    case 'record': {
      const { callId, leg, promptId, greetingSeconds, maxMessageSeconds } = effect;
      const sound = { promptId, greetingSeconds, maxMessageSeconds };
      return [{ leg, message: { kind: 'record', effect: name, callId, leg, ...sound } }];
    }
    case 'listen': {
      const { callId, leg, phrases, seconds } = effect;
      return [{ leg, message: { kind: 'listen', effect: name, callId, leg, phrases, seconds } }];
    }
    case 'playMessage': {
      const { callId, leg, messageId, seconds, keys } = effect;
      return [{ leg, message: { kind: 'playMessage', effect: name, callId, leg, messageId, seconds, keys } }];
    }
    case 'recordGreeting': {
      const { callId, leg, does } = effect;
      return [{ leg, message: { kind: 'recordGreeting', effect: name, callId, leg, does } }];
    }
    case 'recordTalk': {
      const { callId, leg, part, does } = effect;
      return [{ leg, message: { kind: 'recordTalk', effect: name, callId, leg, part, does } }];
    }
    case 'joinRoom': {
      const { callId, leg, roomId, tone } = effect;
      return [{ leg, message: { kind: 'joinRoom', effect: name, callId, leg, roomId, tone } }];
    }
    case 'receiveFax': {
      const { callId, leg } = effect;
      return [{ leg, message: { kind: 'receiveFax', effect: name, callId, leg } }];
    }
    case 'hold':
    case 'resume':
      return [{ leg: effect.leg, message: { kind: effect.kind, effect: name, leg: effect.leg } }];
    case 'ring':
    case 'dial':
    case 'emergency':
    case 'storm':
    case 'lookUp':
    case 'askBot':
    case 'readBox':
    case 'doneWithMessage':
    case 'recordNote':
    case 'talkRecorded':
    case 'text':
    case 'surveyAnswered':
    case 'blockedCaller':
    case 'groupPresence':
    case 'forwardLoop':
    case 'callEnded':
    case 'agentChanged':
    case 'campaignChanged':
    case 'wantContacts':
    case 'returnContacts':
    case 'optOut':
      return [];
  }
}
