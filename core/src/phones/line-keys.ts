/** In which of three ways the one who watches and the one watched stand when a key is pressed. */
export type KeySituation = 'quiet' | 'ringing' | 'inCall';

/** What a press can do: the actions that the engine knows. */
export type KeyAction = 'call' | 'take' | 'announce' | 'handOver' | 'nothing';

export const keySituations: readonly KeySituation[] = ['quiet', 'ringing', 'inCall'];

/** Actions that make sense in each situation, the usual one first. */
export const keyActions: Record<KeySituation, readonly KeyAction[]> = {
  quiet: ['call', 'nothing'],
  ringing: ['take', 'call', 'nothing'],
  inCall: ['announce', 'handOver', 'nothing'],
};

export const situationWords: Record<KeySituation, string> = {
  quiet: 'quiet',
  ringing: 'they ring',
  inCall: 'one talks',
};

export const actionWords: Record<KeyAction, string> = {
  call: 'calls them',
  take: 'takes the call',
  announce: 'tells them first',
  handOver: 'hands over at once',
  nothing: 'does nothing',
};

/** Seconds a key may wait before it alerts. */
export const longestAlert = 60;

/** A key that watches somebody's extension. */
export interface LineKey {
  /** From 1, as counted on the device. */
  position: number;
  /** Empty for the name of who is watched. */
  label: string;
  personId: string;
  /** Seconds of ringing after which it alerts here; null for the light only. */
  alertAfter: number | null;
  /** Seconds for which the caller is shown while it rings; 0 for never, null for as long as it rings. */
  callerSeconds: number | null;
  press: Record<KeySituation, KeyAction>;
}

/** What is known of who is watched, at an instant. */
export interface Watched {
  state: 'ringing' | 'talking' | 'free' | 'unreachable';
  /** Milliseconds for which it rings. */
  ringsMs: number;
  caller: string | null;
}

/**
 * What whose key it is does themselves: nothing, talk with a caller whom they may hand over, tell who is watched of that
 * caller, or talk otherwise (with a contact, a colleague, somebody they dialled).
 */
export type OwnCall = 'none' | 'caller' | 'telling' | 'other';

/** What the key shows and what a press would do. */
export interface KeyFace {
  situation: KeySituation;
  light: 'off' | 'steady' | 'blinking';
  /** It sounds here too. */
  alerts: boolean;
  caller: string | null;
  press: KeyAction;
}

/**
 * A call of one's own comes before the ringing of others: one press cannot leave a caller alone. Once the caller is
 * announced, the next press puts them through.
 */
export function keyFace(key: LineKey, watched: Watched, own: OwnCall): KeyFace {
  const rings = watched.state === 'ringing';
  const situation = own !== 'none' ? 'inCall' : rings ? 'ringing' : 'quiet';
  const shown = key.callerSeconds === null || watched.ringsMs < key.callerSeconds * 1000;
  return {
    situation,
    light: rings ? 'blinking' : watched.state === 'talking' ? 'steady' : 'off',
    alerts: rings && key.alertAfter !== null && watched.ringsMs >= key.alertAfter * 1000,
    caller: rings && shown ? watched.caller : null,
    press: own === 'other' ? 'nothing' : own === 'telling' ? 'handOver' : key.press[situation],
  };
}
