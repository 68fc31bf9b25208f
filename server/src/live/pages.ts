import type { WebSocket } from 'ws';
import type { QueueState } from '@night-bell/core/exchange/queues/queue';
import type { Role } from '@night-bell/core/model/roles';
import { itemsChannel, textsChannel } from './channels.ts';
import { tryAgainLater } from './gateway.ts';
import type { Applied } from './replica.ts';
import type { Live } from './live.ts';
import {
  agentLive,
  type AgentLive,
  campaignLive,
  type CampaignLive,
  callLive,
  isOf,
  type CallLive,
  type LiveView,
  liveView,
  nextIn,
  queueLive,
  type QueueLive,
  trunkLive,
  type TrunkLive,
} from './view.ts';

const pushEvery = 100;
const pulseEvery = 10_000;
/** People in one message of a greeting. */
const greetedAtOnce = 300;
/** Bytes a page may be behind. */
const mostBehind = 8 * 1024 * 1024;

/** What a page hears. Absent members have not changed. */
export type PageMessage =
  | ({ kind: 'all' } & LiveView)
  | {
      kind: 'changes';
      at: number;
      agents: AgentLive[];
      queues: QueueLive[];
      calls: CallLive[];
      trunks: TrunkLive[];
      campaigns: CampaignLive[];
      endedCalls: string[];
      goneAgents: string[];
      /** The set-up changed: lists are to be read again. */
      configuration: boolean;
      /** Texts came or went: those shown are to be read again. */
      texts: boolean;
      /** What Home shows is not what it was. */
      home: boolean;
      /** Items that changed, by kind: those shown are to be read again, and no others. */
      items: { kind: string; id: string }[];
    }
  | { kind: 'pulse'; at: number };

interface Page {
  socket: WebSocket;
  personId: string;
  role: Role;
  /** The calls an agent's page knows of. */
  calls: Set<string>;
}

/** Pushes what changed to every open page of this server, at most ten times a second. */
export class Pages {
  private readonly live: Live;
  private readonly pages = new Set<Page>();
  private readonly agents = new Set<string>();
  private readonly calls = new Set<string>();
  private readonly ended = new Set<string>();
  private readonly said = new Map<string, string>();
  private readonly agentTexts = new Map<string, string>();
  /** Who rings next, by queue; made again only when something about its people changed. */
  private readonly next = new Map<string, string[]>();
  private configuration = false;
  private texts = false;
  private home = false;
  private readonly items = new Map<string, { kind: string; id: string }>();
  private timer: NodeJS.Timeout | null = null;
  private readonly pulse: NodeJS.Timeout;
  private readonly stop: () => void;

  constructor(live: Live) {
    this.live = live;
    const stopChanges = live.listen(
      (applied) => this.note(applied),
      () => this.reset(),
    );
    const stopTexts = live.told.listenOn(textsChannel, () => {
      this.texts = true;
      this.timer ??= setTimeout(() => this.push(), pushEvery);
    });
    const stopItems = live.told.listenOn(itemsChannel, (said) => {
      const [kind = '', id = ''] = said.split(' ');
      this.items.set(said, { kind, id });
      this.timer ??= setTimeout(() => this.push(), pushEvery);
    });
    this.stop = () => {
      stopChanges();
      stopTexts();
      stopItems();
    };
    this.pulse = setInterval(() => this.sendAll({ kind: 'pulse', at: Date.now() }), pulseEvery);
  }

  close(): void {
    this.stop();
    clearInterval(this.pulse);
    if (this.timer !== null) clearTimeout(this.timer);
    for (const page of this.pages) page.socket.close(1001, 'going away');
  }

  open(socket: WebSocket, personId: string, role: Role): void {
    const page: Page = { socket, personId, role, calls: new Set() };
    if (!this.live.ready) return socket.close(tryAgainLater, 'being rebuilt');
    this.pages.add(page);
    socket.on('close', () => this.pages.delete(page));
    this.greet(page);
  }

  /** Without the exchange a page is told so by a closed socket; it comes back by itself. */
  private reset(): void {
    this.agentTexts.clear();
    this.next.clear();
    for (const page of this.pages) {
      if (this.live.ready) this.greet(page);
      else page.socket.close(tryAgainLater, 'being rebuilt');
    }
  }

  /**
   * Everything as it is now. People go out some hundred at a time, with room for calls in between: ten thousand at once
   * would keep the exchange from them.
   */
  private greet(page: Page): void {
    if (!this.live.ready) return;
    const state = this.live.exchange.view();
    const ids = page.role === 'agent' ? [page.personId] : [...state.agents.keys()];
    this.send(page, { kind: 'all', ...liveView(state, ids.splice(0, greetedAtOnce)) });
    const next = () => {
      if (ids.length === 0 || !this.pages.has(page) || !this.live.ready) return;
      const texts = ids.splice(0, greetedAtOnce).flatMap((id) => this.agentText(id) ?? []);
      this.say(page, moreAgents(this.live.exchange.view().now, texts));
      setImmediate(next);
    };
    setImmediate(next);
  }

  /** An agent as JSON, made again only when something about them changed. */
  private agentText(id: string): string | null {
    let text = this.agentTexts.get(id);
    if (text === undefined) {
      const agent = agentLive(this.live.exchange.view(), id);
      if (agent === null) return null;
      text = JSON.stringify(agent);
      this.agentTexts.set(id, text);
    }
    return text;
  }

  private nextOf(queue: QueueState): string[] {
    const { id } = queue.item;
    let next = this.next.get(id);
    if (next === undefined) {
      next = nextIn(queue);
      this.next.set(id, next);
    }
    return next;
  }

  private note(applied: Applied[]): void {
    for (const { event, handled, ended } of applied) {
      if (event.kind === 'configurationChanged') this.configuration = true;
      if ('callId' in event) this.calls.add(event.callId);
      for (const effect of handled.effects) {
        if (effect.kind === 'agentChanged') {
          this.agents.add(effect.personId);
          this.agentTexts.delete(effect.personId);
        } else if ('callId' in effect) this.calls.add(effect.callId);
      }
      for (const record of handled.records) this.calls.add(record.callId);
      for (const { facts } of ended) this.ended.add(facts.callId);
    }
    this.timer ??= setTimeout(() => this.push(), pushEvery);
  }

  private push(): void {
    this.timer = null;
    if (!this.live.ready) return;
    // Nobody looks: whoever opens a page is told everything as it is then.
    if (this.pages.size === 0) {
      this.said.clear();
      this.next.clear();
      return this.forget();
    }
    const state = this.live.exchange.view();
    const agents: AgentLive[] = [];
    const goneAgents: string[] = [];
    for (const id of this.agents) {
      const agent = agentLive(state, id);
      if (agent === null) goneAgents.push(id);
      else agents.push(agent);
    }
    const calls = [...this.calls].map((id) => callLive(state, id)).filter((call) => call !== null);
    if (this.configuration) this.next.clear();
    for (const id of this.agents)
      for (const { queue } of state.agents.get(id)?.memberships ?? []) this.next.delete(queue.item.id);
    const queues = this.news([...state.queues.keys()], (id) =>
      queueLive(state, id, (queue) => this.nextOf(queue)),
    );
    const trunks = this.news([...state.trunks.keys()], (id) => trunkLive(state, id));
    const campaigns = this.news([...state.campaigns.keys()], (id) => campaignLive(state, id));
    const message: PageMessage = {
      kind: 'changes',
      at: state.now,
      agents,
      queues,
      calls,
      trunks,
      campaigns,
      endedCalls: [...this.ended],
      goneAgents,
      configuration: this.configuration,
      texts: this.texts,
      home: this.home,
      items: [...this.items.values()],
    };
    this.forget();
    this.sendAll(message);
  }

  private forget(): void {
    for (const touched of [this.agents, this.calls, this.ended, this.items]) touched.clear();
    this.configuration = this.texts = this.home = false;
  }

  /** Of small things that many events may touch: those that are not as they were said last. */
  private news<T>(ids: string[], look: (id: string) => T | null): T[] {
    return ids.flatMap((id) => {
      const value = look(id);
      const text = JSON.stringify(value);
      if (value === null || this.said.get(id) === text) return [];
      this.said.set(id, text);
      return [value];
    });
  }

  /** How many pages are open. */
  get count(): number {
    return this.pages.size;
  }

  tellHome(): void {
    this.home = true;
    this.timer ??= setTimeout(() => this.push(), pushEvery);
  }

  /** Made into text once for all who hear the same. */
  private sendAll(message: PageMessage): void {
    let text: string | null = null;
    for (const page of this.pages) {
      if (page.role === 'agent' && message.kind !== 'pulse') this.send(page, message);
      else this.say(page, (text ??= JSON.stringify(message)));
    }
  }

  /** An agent hears of themselves and their own calls only. */
  private send(page: Page, message: PageMessage): void {
    const mine = page.role === 'agent' && message.kind !== 'pulse' ? onlyMine(message, page) : message;
    this.say(page, JSON.stringify(mine));
  }

  private say(page: Page, text: string): void {
    if (page.socket.readyState !== page.socket.OPEN) return;
    // It comes back by itself and is told everything anew.
    if (page.socket.bufferedAmount > mostBehind) page.socket.close(tryAgainLater, 'too far behind');
    else page.socket.send(text);
  }
}

/** A message that only brings agents, who are text already. */
function moreAgents(at: number, agents: readonly string[]): string {
  const message: PageMessage = {
    ...{ kind: 'changes', at, agents: [], queues: [], calls: [], trunks: [], campaigns: [] },
    ...{ endedCalls: [], goneAgents: [], configuration: false, texts: false, home: false, items: [] },
  };
  return JSON.stringify(message).replace('"agents":[]', () => `"agents":[${agents.join(',')}]`);
}

/** A call that went on to somebody else is over for this page. */
function onlyMine(message: Exclude<PageMessage, { kind: 'pulse' }>, page: Page): PageMessage {
  const calls = message.calls.filter((call) => isOf(call, page.personId));
  const mine = {
    agents: message.agents.filter((agent) => agent.personId === page.personId),
    calls,
    queues: [],
    trunks: [],
    campaigns: [],
  };
  const now = new Set(calls.map((call) => call.callId));
  if (message.kind === 'all') {
    page.calls = now;
    return { ...message, ...mine };
  }
  const touched = new Set([...message.endedCalls, ...message.calls.map((call) => call.callId)]);
  const endedCalls = [...page.calls].filter((id) => touched.has(id) && !now.has(id));
  for (const id of endedCalls) page.calls.delete(id);
  for (const id of now) page.calls.add(id);
  const goneAgents = message.goneAgents.filter((id) => id === page.personId);
  // Boxes are heard by many; which of them is theirs an agent's page asks.
  const items = message.items.filter(({ kind }) => kind === 'voicemail');
  return { ...message, ...mine, endedCalls, goneAgents, items };
}
