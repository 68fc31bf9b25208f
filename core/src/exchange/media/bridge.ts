/** How a leg takes part: it is heard by all, it only hears, or it is heard by our side alone. */
export type BridgeMode = 'talk' | 'listen' | 'whisper';

/** The legs that hear each other. */
export interface Bridge {
  id: string;
  members: { leg: string; mode: BridgeMode }[];
}
