import { fork } from 'node:child_process';
import { say } from './say.mjs';

/** Pauses before a child that keeps ending is started again; the first time it is started at once. */
const pausesMs = [0, 250, 500, 1_000, 2_000, 4_000, 8_000, 15_000];
/** A child that was ready for so long begins anew with its pauses. */
const settledMs = 1_000;
const heartbeatWithinMs = 5_000;
const lookEveryMs = 500;
/** sysexits.h, EX_CONFIG: the child says that starting it again would not help. */
export const brokenInstallation = 78;

/**
 * Runs a program as a child process and starts it again whenever it ends or, when it has a heartbeat, hangs. Its first
 * message says that it is ready; a child that never was ready is not started again: setting up failed.
 */
export class Supervised {
  constructor({
    name,
    program,
    cwd,
    execArgv,
    environment,
    heartbeat = false,
    onMessage,
    onReady,
    onBroken,
  }) {
    Object.assign(this, { name, program, cwd, execArgv, environment, heartbeat });
    Object.assign(this, { onMessage, onReady, onBroken });
    this.child = null;
    this.failures = 0;
    this.stopping = false;
    this.wasReady = false;
    this.beatAt = null;
    this.lookedAt = Date.now();
    this.timer = heartbeat ? setInterval(() => this.checkHeartbeat(), lookEveryMs) : null;
  }

  get pid() {
    return this.child?.pid;
  }

  /** Resolves to the child's first message, or to null when it ended before it was ready. */
  start() {
    const child = fork(this.program, [], {
      cwd: this.cwd,
      env: { ...process.env, ...this.environment() },
      execArgv: this.execArgv,
      // A group of its own: Ctrl-C is ours to pass on, in order.
      detached: true,
    });
    this.child = child;
    this.beatAt = null;
    let readyAt = null;
    return new Promise((resolve) => {
      child.on('error', (error) => say(`${this.name}: ${error.message}`));
      child.on('message', (message) => {
        this.beatAt = Date.now();
        if (message.ready === true) {
          this.wasReady = true;
          readyAt = Date.now();
          this.onReady?.(message);
          resolve(message);
        } else if (message.beat !== true) this.onMessage?.(message);
      });
      child.on('exit', (code, signal) => {
        resolve(null);
        this.ended(code, signal, readyAt === null ? 0 : Date.now() - readyAt);
      });
    });
  }

  send(message) {
    if (this.child?.connected === true) this.child.send(message);
  }

  async stop() {
    this.stopping = true;
    if (this.timer !== null) clearInterval(this.timer);
    const { child } = this;
    if (child === null || child.exitCode !== null || child.signalCode !== null) return;
    const over = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGTERM');
    // A child that was stopped (SIGSTOP) or hangs does not hear the first.
    const timer = setTimeout(() => child.kill('SIGKILL'), 10_000);
    await over;
    clearTimeout(timer);
  }

  ended(code, signal, readyMs) {
    if (this.stopping) return;
    if (code === brokenInstallation || !this.wasReady) {
      this.onBroken(`${this.name} cannot start; what it said is above.`);
      return;
    }
    if (readyMs > settledMs) this.failures = 0;
    const pause = pausesMs[Math.min(this.failures++, pausesMs.length - 1)];
    const when = pause === 0 ? 'at once' : `in ${pause / 1_000} s`;
    say(`${time()} ${this.name} ended by itself (${signal ?? `exit code ${code}`}); started again ${when}.`);
    setTimeout(() => {
      if (!this.stopping) void this.start();
    }, pause);
  }

  checkHeartbeat() {
    const now = Date.now();
    const stoodStill = now - this.lookedAt > heartbeatWithinMs / 2;
    this.lookedAt = now;
    if (this.beatAt === null) return;
    // The machine slept, or had no time for us either: whoever could not be heard meanwhile has their time anew.
    if (stoodStill) this.beatAt = now;
    if (now - this.beatAt < heartbeatWithinMs) return;
    say(`${time()} ${this.name} has not been heard of for ${heartbeatWithinMs / 1_000} s; it is ended.`);
    this.beatAt = null;
    this.child?.kill('SIGKILL');
  }
}

function time() {
  return new Date().toTimeString().slice(0, 8);
}
