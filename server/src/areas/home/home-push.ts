import type { Beside } from '../../beside/beside.ts';
import type { Live } from '../../live/live.ts';
import type { Pages } from '../../live/pages.ts';
import type { LinesNow } from './view.ts';

/** How often Home is made anew while somebody has a page open and something happened. */
const lookEveryMs = 5_000;

/** Looks beside the live loop whether Home has changed, and tells the open pages; none of them needs to ask again. */
export class HomePush {
  private readonly live: Live;
  private readonly beside: Beside;
  private readonly pages: Pages;
  private readonly lines: () => LinesNow | null;
  private readonly timer: NodeJS.Timeout;
  private seq = 0;
  private said = '';
  private looking = false;

  constructor(live: Live, beside: Beside, pages: Pages, lines: () => LinesNow | null) {
    this.live = live;
    this.beside = beside;
    this.pages = pages;
    this.lines = lines;
    this.timer = setInterval(() => void this.look(), lookEveryMs);
  }

  close(): void {
    clearInterval(this.timer);
  }

  private async look(): Promise<void> {
    if (this.looking || !this.live.ready || this.pages.count === 0) return;
    const seq = this.live.exchange.seq;
    if (seq === this.seq) return;
    this.looking = true;
    try {
      const text = await this.beside.home({ seq: await this.live.committed(), lines: this.lines() });
      this.seq = seq;
      if (text !== this.said) this.pages.tellHome();
      this.said = text;
    } catch {
      // Looked again in a moment; who asks meanwhile is told why it cannot be had.
    } finally {
      this.looking = false;
    }
  }
}
