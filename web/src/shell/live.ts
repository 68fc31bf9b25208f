import { defineStore } from 'pinia';
import { ref, shallowReactive, shallowRef } from 'vue';
import {
  type AgentLive,
  api,
  ApiProblem,
  ask,
  type CallLive,
  type CampaignLive,
  type QueueLive,
  type TrunkLive,
} from '../api/client.ts';

interface Things {
  at: number;
  agents: AgentLive[];
  queues: QueueLive[];
  calls: CallLive[];
  trunks: TrunkLive[];
  campaigns: CampaignLive[];
}

type Message =
  | ({ kind: 'all' } & Things)
  | ({
      kind: 'changes';
      endedCalls: string[];
      goneAgents: string[];
      configuration: boolean;
      texts: boolean;
      home: boolean;
      items: { kind: string; id: string }[];
    } & Things)
  | { kind: 'pulse'; at: number };

const notAnswering = 'Night Bell is not answering.';
const silentTooLongMs = 25_000;
const retryMs = 1_000;

/** Agents, queues and calls as they are now, pushed by the server; comes back by itself. */
export const useLive = defineStore('live', () => {
  const agents = shallowReactive(new Map<string, AgentLive>());
  const queues = shallowReactive(new Map<string, QueueLive>());
  const calls = shallowReactive(new Map<string, CallLive>());
  const trunks = shallowReactive(new Map<string, TrunkLive>());
  const campaigns = shallowReactive(new Map<string, CampaignLive>());
  /** Agents who are signed in, and those of them whom no phone reaches: counted as they come, they are many. */
  const signedIn = ref(0);
  const unreachable = ref(0);
  const maps = [agents, queues, calls, trunks, campaigns];
  const connected = ref(true);
  /** While it is not connected: since when, and what is known of why. */
  const away = ref<{ since: number; why: string } | null>(null);
  /** The server's clock, for 'since' and 'for'; moves every second. */
  const now = ref(Date.now());
  const configurationChanges = ref(0);
  /** What Home shows changed, as the server says after it looked. */
  const homeChanges = ref(0);
  const textChanges = ref(0);
  const endedCalls = ref<string[]>([]);
  /** Items that changed, as the last message that names some says; and how often everything may have. */
  const changedItems = shallowRef<readonly { kind: string; id: string }[]>([]);
  const missed = ref(0);
  let offset = 0;
  let socket: WebSocket | null = null;
  let heardAt = Date.now();
  let wanted = false;

  function start(): void {
    if (wanted) return;
    wanted = true;
    open();
  }

  function stop(): void {
    wanted = false;
    socket?.close();
    socket = null;
    clear();
  }

  function open(): void {
    if (!wanted) return;
    const address = `${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/live`;
    const opened = new WebSocket(address);
    socket = opened;
    opened.onmessage = ({ data }) => hear(JSON.parse(data as string) as Message);
    opened.onclose = ({ code }) => {
      if (socket !== opened) return;
      connected.value = false;
      if (code === 4401) return location.reload();
      away.value ??= { since: Date.now(), why: notAnswering };
      void lookWhy();
      setTimeout(open, retryMs);
    };
  }

  /** A server that answers says why its exchange does not. */
  async function lookWhy(): Promise<void> {
    const why = await ask(api.GET('/api/ready')).then(
      () => 'Night Bell is back.',
      (error: unknown) =>
        error instanceof ApiProblem && error.code !== 'away' ? error.detail : notAnswering,
    );
    if (away.value !== null) away.value = { ...away.value, why };
  }

  function putAgent(id: string, agent: AgentLive | null): void {
    const before = agents.get(id);
    for (const [each, by] of [
      [before, -1],
      [agent, 1],
    ] as const) {
      if (each == null || each.state === 'signedOut') continue;
      signedIn.value += by;
      if (each.reachedBy === null) unreachable.value += by;
    }
    if (agent === null) agents.delete(id);
    else agents.set(id, agent);
  }

  function clear(): void {
    for (const map of maps) map.clear();
    signedIn.value = 0;
    unreachable.value = 0;
  }

  function hear(message: Message): void {
    heardAt = Date.now();
    if (message.kind === 'pulse') {
      offset = message.at - Date.now();
      return;
    }
    if (message.kind === 'all') {
      clear();
      // What was missed while away is read again.
      if (!connected.value) {
        configurationChanges.value++;
        homeChanges.value++;
        textChanges.value++;
        missed.value++;
      }
      connected.value = true;
      away.value = null;
    } else {
      for (const id of message.goneAgents) putAgent(id, null);
      for (const id of message.endedCalls) calls.delete(id);
      if (message.configuration) configurationChanges.value++;
      if (message.home) homeChanges.value++;
      if (message.texts) textChanges.value++;
      if (message.items.length > 0) changedItems.value = message.items;
      if (message.endedCalls.length > 0) endedCalls.value = message.endedCalls;
    }
    for (const agent of message.agents) putAgent(agent.personId, agent);
    for (const queue of message.queues) queues.set(queue.queueId, queue);
    for (const call of message.calls) calls.set(call.callId, call);
    for (const trunk of message.trunks) trunks.set(trunk.trunkId, trunk);
    for (const campaign of message.campaigns) campaigns.set(campaign.campaignId, campaign);
  }

  setInterval(() => {
    now.value = Date.now() + offset;
    if (wanted && socket?.readyState === WebSocket.OPEN && Date.now() - heardAt > silentTooLongMs)
      socket.close();
  }, 1_000);

  return {
    agents,
    signedIn,
    unreachable,
    queues,
    calls,
    trunks,
    campaigns,
    connected,
    away,
    now,
    configurationChanges,
    homeChanges,
    textChanges,
    endedCalls,
    changedItems,
    missed,
    start,
    stop,
  };
});
