import type { Server } from 'node:http';
import { httpService, json, listen, readJson, showsKey, stopListening } from '../http-service.ts';
import { talk, type Turn } from './talk.ts';

/** The stand-in bot, over the contract of docs/bots.md. */
export class SailingBot {
  private readonly server: Server;

  constructor(key: string) {
    this.server = httpService(async (request, response) => {
      if (!showsKey(request, key)) return json(response, 401, { error: 'wrong key' });
      if (request.method !== 'POST') return json(response, 405, { error: 'turns are posted' });
      json(response, 200, talk((await readJson(request)) as Turn));
    });
  }

  /** Resolves to the port. */
  listen(port: number): Promise<number> {
    return listen(this.server, port);
  }

  close(): Promise<void> {
    return stopListening(this.server);
  }
}
