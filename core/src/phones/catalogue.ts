/** `outside` is no device of ours: the exchange dials it over a trunk. `browser` is played by the person's own page. */
export type PhoneKind = 'softphone' | 'desk' | 'cordless' | 'browser' | 'outside';

/** How SIP messages travel (RFC 3261, 18; RFC 5630 for TLS). */
export type Transport = 'udp' | 'tcp' | 'tls';

export const transports: readonly Transport[] = ['udp', 'tcp', 'tls'];

/** Voice codecs by their names in SDP (RFC 3551 and RFC 7587). */
export type Codec = 'PCMU' | 'PCMA' | 'G722' | 'G729' | 'opus';

export const codecs: readonly Codec[] = ['PCMU', 'PCMA', 'G722', 'G729', 'opus'];

export const codecWords: Record<Codec, string> = {
  PCMU: 'G.711 µ-law',
  PCMA: 'G.711 A-law',
  G722: 'G.722 wide band',
  G729: 'G.729 narrow',
  opus: 'Opus',
};

export type ModelId = 'desk4' | 'desk6' | 'desk12' | 'softphone' | 'cordless';

/** A generic model of what registers by SIP. What stands beside a number: an outside number has no model. */
export interface DeviceModel {
  id: ModelId;
  name: string;
  kind: PhoneKind;
  /** Programmable keys beside the line itself. */
  lineKeys: number;
  transports: readonly Transport[];
  codecs: readonly Codec[];
}

const deskCodecs: readonly Codec[] = ['PCMU', 'PCMA', 'G722', 'G729'];

export const deviceModels: readonly DeviceModel[] = [
  { id: 'softphone', name: 'Softphone', kind: 'softphone', lineKeys: 0, transports, codecs },
  { id: 'desk4', name: 'Desk phone with 4 keys', kind: 'desk', lineKeys: 4, transports, codecs: deskCodecs },
  { id: 'desk6', name: 'Desk phone with 6 keys', kind: 'desk', lineKeys: 6, transports, codecs: deskCodecs },
  {
    id: 'desk12',
    name: 'Desk phone with 12 keys',
    kind: 'desk',
    lineKeys: 12,
    transports,
    codecs: deskCodecs,
  },
  {
    id: 'cordless',
    name: 'Cordless phone',
    kind: 'cordless',
    lineKeys: 0,
    transports: ['udp', 'tcp'],
    codecs: ['PCMU', 'PCMA', 'G722'],
  },
];

export function deviceModel(id: string): DeviceModel | undefined {
  return deviceModels.find((model) => model.id === id);
}

/** Whether phones of this kind register by SIP. The others are played by a page, or dialled. */
export function registersBySip(kind: PhoneKind): boolean {
  return kind !== 'browser' && kind !== 'outside';
}
