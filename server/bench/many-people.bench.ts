/**
 * Two thousand phones that register at once while a page is open.
 */
import { monitorEventLoopDelay, performance } from 'node:perf_hooks';
import { WebSocket } from 'ws';
import { registerRequest } from '@night-bell/core/sip/client';
import { digestSecret } from '@night-bell/core/sip/digest';
import { readSip, type SipResponse, writeSip } from '@night-bell/core/sip/message';
import type { FromGateway, ToGateway } from '@night-bell/core/devices/protocol';
import { createList } from '../src/areas/people/list.ts';
import type { NewPerson } from '../src/areas/people/create.ts';
import { realm } from '../src/live/registrar.ts';
import type { PageMessage } from '../src/live/pages.ts';
import { authorOf } from '../src/spine/items.ts';
import { gatewayKey, openCompany } from './company.ts';

const { database, seal, night, address, headers, close } = await openCompany();

async function people(from: number, count: number): Promise<NewPerson[]> {
  const rows = Array.from({ length: count }, (_, index) => ({
    name: `Bench Person ${from + index}`,
    team: `Bench ${index % 40}`,
    role: '',
    login: '',
    extension: '',
    phone: '',
    mail: '',
  }));
  return database.transaction((trx) => createList(trx, seal, rows, authorOf(null)));
}

await storm(await people(0, 2_000));
await people(2_000, 8_000);
await night.live.settled();
await close();

async function storm(made: NewPerson[]): Promise<void> {
  await night.live.settled();
  const phones = made.map(({ phone }) => phone!);
  const page = new WebSocket(`${address.replace(/^http/, 'ws')}/api/live`, { headers });
  const registered = new Set<string>();
  const wanted = new Set(made.map(({ id }) => id));
  let longestGap = 0;
  let lastHeard = 0;
  let messages = 0;
  const everybody = new Promise<void>((resolve) => {
    page.on('message', (data: Buffer) => {
      const message = JSON.parse(data.toString()) as PageMessage;
      if (message.kind !== 'changes') return;
      messages++;
      if (lastHeard > 0) longestGap = Math.max(longestGap, performance.now() - lastHeard);
      lastHeard = performance.now();
      for (const agent of message.agents)
        if (agent.phone === 'registered' && wanted.has(agent.personId)) registered.add(agent.personId);
      if (registered.size === wanted.size) resolve();
    });
  });
  await new Promise((resolve, reject) => page.once('open', resolve).once('error', reject));

  const gateway = new WebSocket(`${address.replace(/^http/, 'ws')}/devices`, {
    headers: { authorization: `Bearer ${gatewayKey}` },
  });
  await new Promise((resolve, reject) => gateway.once('open', resolve).once('error', reject));
  const say = (message: FromGateway) => gateway.send(JSON.stringify(message));
  say({ kind: 'hello', gateway: 'bench', legs: [], calls: [] });
  const dialogs = new Map(
    phones.map(({ account, registrationSecret }) => [
      account,
      {
        account,
        domain: realm,
        transport: 'tls' as const,
        contact: `sip:${account}@192.0.2.5`,
        secret: digestSecret(account, realm, registrationSecret),
        callId: account,
        expires: 600,
      },
    ]),
  );
  gateway.on('message', (data: Buffer) => {
    const message = JSON.parse(data.toString()) as ToGateway;
    if (message.kind !== 'sip') return;
    const read = readSip(message.message);
    if (read === null || !('status' in read) || read.status !== 401) return;
    const request = registerRequest(dialogs.get(message.device)!, 2, 'b2', read as SipResponse)!;
    say({ kind: 'sip', device: message.device, message: writeSip(request) });
  });
  const stalls = monitorEventLoopDelay({ resolution: 5 });
  stalls.enable();
  const start = performance.now();
  for (const [device, phone] of dialogs)
    say({ kind: 'sip', device, message: writeSip(registerRequest(phone, 1, 'b1')!) });
  await everybody;
  const seconds = (performance.now() - start) / 1000;
  console.log(
    `  ${phones.length.toLocaleString('en')} phones registered, as an open page saw it: ${seconds.toFixed(1)} s (target: at most 10 s); the page heard ${messages} updates from the first one on, at most ${longestGap.toFixed(0)} ms apart; the server, with the phones in the same process, was busy for ${(stalls.max / 1e6).toFixed(0)} ms at the longest`,
  );
  page.close();
  gateway.close();
}
