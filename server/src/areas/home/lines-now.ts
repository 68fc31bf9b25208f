import type { Gateways } from '../../live/gateways.ts';
import type { Live } from '../../live/live.ts';
import type { LinesNow } from './view.ts';

/** What this server knows of the providers; null when another hosts. */
export function linesNow(live: Live, gateways: Gateways): LinesNow | null {
  if (!live.isHost) return null;
  const trunks = [...live.exchange.view().trunks.values()].map((trunk) => trunk.item);
  return {
    reached: trunks.map(({ host }) => host).filter((host) => gateways.reaches(host)),
    faults: Object.fromEntries(trunks.map(({ id }) => [id, gateways.lines.state(id)?.fault ?? ''])),
  };
}
