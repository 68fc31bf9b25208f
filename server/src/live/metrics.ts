import { monitorEventLoopDelay } from 'node:perf_hooks';
import { Counter, Gauge, Histogram, Registry } from 'prom-client';
import { displayState } from '@night-bell/core/exchange/agents/display-state';
import type { Database } from '../database/connection.ts';
import { stageOf } from './call-stage.ts';
import type { Live } from './live.ts';

/**
 * What an operator watches, as OpenMetrics: calls, queues, agents, how long commits and requests take, how late the
 * event loop is, what waits to be done. Read off when asked; names of people and callers are in none of it.
 */
export class Metrics {
  private readonly registry = new Registry<typeof Registry.OPENMETRICS_CONTENT_TYPE>();
  private readonly commitSeconds: Histogram;
  private readonly events: Counter;
  private readonly requestSeconds: Histogram;
  private readonly loop = monitorEventLoopDelay({ resolution: 10 });

  constructor(database: Database, live: Live) {
    const { registry } = this;
    registry.setContentType(Registry.OPENMETRICS_CONTENT_TYPE);
    const registers = [registry];
    this.loop.enable();
    this.commitSeconds = new Histogram({
      name: 'night_bell_commit_seconds',
      help: 'How long writing a group of events took',
      buckets: [0.002, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 1, 5],
      registers,
    });
    this.events = new Counter({
      name: 'night_bell_events',
      help: 'Events committed by this server',
      registers,
    });
    this.requestSeconds = new Histogram({
      name: 'night_bell_request_seconds',
      help: 'How long requests took, by route and status',
      labelNames: ['method', 'route', 'status'],
      buckets: [0.005, 0.02, 0.1, 0.5, 2, 10],
      registers,
    });
    const gauge = (name: string, help: string, labelNames: string[], collect: (set: Set) => void) => {
      // As it is at this moment, so nothing of before stays.
      const made = new Gauge({
        name: `night_bell_${name}`,
        help,
        labelNames,
        registers,
        collect() {
          this.reset();
          collect((value, labels = {}) => this.inc(labels, value));
        },
      });
      return made;
    };
    const state = () => (live.ready ? live.exchange.view() : null);
    gauge('hosting', 'Whether this server hosts the exchange', [], (set) => set(live.isHost ? 1 : 0));
    gauge('log_position', 'The last event this server knows', [], (set) => set(state()?.seq ?? 0));
    gauge('calls', 'Calls in progress, by direction and stage', ['direction', 'stage'], (set) => {
      for (const call of state()?.calls.values() ?? [])
        set(1, { direction: call.direction, stage: stageOf(call) });
    });
    gauge('agents', 'People, by what they do', ['state'], (set) => {
      const now = state();
      for (const agent of now?.agents.values() ?? []) set(1, { state: displayState(agent, now!.now).state });
    });
    gauge('queue_waiting', 'Callers waiting, by queue', ['queue'], (set) => {
      for (const queue of state()?.queues.values() ?? [])
        set(queue.waitingList.size + queue.answered.size, { queue: queue.item.name });
    });
    gauge('loop_delay_seconds', 'How late the event loop was since the last look', ['quantile'], (set) => {
      for (const [quantile, share] of [
        ['0.5', 50],
        ['0.99', 99],
        ['1', 100],
      ] as const)
        set(this.loop.percentile(share) / 1e9, { quantile });
      this.loop.reset();
    });
    // It registers itself.
    new Gauge({
      name: 'night_bell_waiting',
      help: 'What waits to be done: results for records, commands, things set aside and not looked at',
      labelNames: ['what'],
      registers,
      async collect() {
        const { rows } = await database.raw<{ rows: { what: string; count: number }[] }>(
          `select 'records' as what, count(*)::int as count from outbox where sent_revision < revision
           union all select 'commands', count(*)::int from exchange_inbox where done_seq is null and refusal is null
           union all select 'set aside', count(*)::int from set_aside where seen_at is null`,
        );
        for (const { what, count } of rows) this.set({ what }, count);
      },
    });
  }

  committed(ms: number, events: number): void {
    this.commitSeconds.observe(ms / 1_000);
    this.events.inc(events);
  }

  requested(method: string, route: string, status: number, ms: number): void {
    this.requestSeconds.observe({ method, route, status: String(status) }, ms / 1_000);
  }

  get contentType(): string {
    return this.registry.contentType;
  }

  text(): Promise<string> {
    return this.registry.metrics();
  }

  close(): void {
    this.loop.disable();
  }
}

type Set = (value: number, labels?: Record<string, string>) => void;
