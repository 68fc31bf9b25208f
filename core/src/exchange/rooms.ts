import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { FaxBoxItem, RoomItem } from '../model/configuration.ts';
import { endCall } from './ending.ts';
import type { Refusal } from './events.ts';
import type { Call, State } from './state.ts';
import { clearTimer, setTimer } from './timers.ts';

const pinSeconds = 30;
const pinTries = 3;
/** No fax takes longer to begin and send its pages. */
const faxSeconds = 600;

/** What is kept of a PIN: enough to check one, not to read it. */
export function pinHash(roomId: string, pin: string): string {
  return bytesToHex(sha256(utf8ToBytes(`${roomId}:${pin}`)));
}

/** Into the room, or to its door where the PIN is asked for. */
export function enterRoom(state: State, call: Call, room: RoomItem): void {
  call.roomId = room.id;
  if (room.pinHash === null) return join(state, call, room);
  call.stage = 'roomDoor';
  call.stageSince = state.now;
  call.keys = '';
  call.keyTries = 0;
  askPin(state, call);
}

function askPin(state: State, call: Call): void {
  state.out.effects.push({ kind: 'play', callId: call.id, leg: call.legs[0]!.id, prompt: 'enterPin' });
  clearTimer(state, call.messageTimer);
  call.messageTimer = setTimer(state, 'message', call, state.now + pinSeconds * 1000);
}

/** A key of the caller at a room's door; `#` ends what was typed. */
export function roomKey(state: State, call: Call, key: string): Refusal | null {
  const room = state.rooms.get(call.roomId ?? '');
  if (call.stage !== 'roomDoor' || !/^[\d#]$/.test(key)) return 'notExpected';
  if (room === undefined) {
    state.todo.push({ send: call, to: { kind: 'end' } });
    return null;
  }
  if (key !== '#') call.keys += key;
  if (key !== '#' && call.keys.length < room.pinLength) return null;
  const isRight = pinHash(room.id, call.keys) === room.pinHash;
  call.keys = '';
  if (isRight) {
    join(state, call, room);
    return null;
  }
  call.keyTries++;
  if (state.out.detail !== 'none')
    state.out.records.push({ callId: call.id, at: state.now, kind: 'wrongPin', tries: call.keyTries });
  if (call.keyTries < pinTries) askPin(state, call);
  else {
    call.messageTimer = clearTimer(state, call.messageTimer);
    state.todo.push({ send: call, to: { kind: 'end' } });
  }
  return null;
}

function join(state: State, call: Call, room: RoomItem): void {
  call.messageTimer = clearTimer(state, call.messageTimer);
  call.stage = 'inRoom';
  call.stageSince = state.now;
  call.answeredAt ??= state.now;
  const others = [...state.calls.values()].filter(
    (other) => other !== call && other.stage === 'inRoom' && other.roomId === room.id,
  ).length;
  state.out.effects.push({
    kind: 'joinRoom',
    callId: call.id,
    leg: call.legs[0]!.id,
    roomId: room.id,
    tone: room.joinTone,
  });
  if (state.out.detail !== 'none')
    state.out.records.push({ callId: call.id, at: state.now, kind: 'joinedRoom', name: room.name, others });
}

export function enterFaxBox(state: State, call: Call, box: FaxBoxItem): void {
  call.stage = 'fax';
  call.stageSince = state.now;
  call.messageTimer = setTimer(state, 'message', call, state.now + faxSeconds * 1000);
  state.out.effects.push({ kind: 'receiveFax', callId: call.id, leg: call.legs[0]!.id, boxId: box.id });
  if (state.out.detail !== 'none')
    state.out.records.push({ callId: call.id, at: state.now, kind: 'faxTone', name: box.name });
}

/** The pages are in, as a file; the sender's call is over with them. */
export function faxReceived(state: State, callId: string, pages: number): Refusal | null {
  const call = state.calls.get(callId);
  if (call === undefined) return 'unknownCall';
  if (call.stage !== 'fax') return 'notExpected';
  if (state.out.detail !== 'none')
    state.out.records.push({ callId, at: state.now, kind: 'faxReceived', pages });
  endCall(state, call, 'caller', 'fax');
  return null;
}
