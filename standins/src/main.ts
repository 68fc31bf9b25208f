import { type Profile, usualProfile } from '@night-bell/core/rehearse/behaviour';
import { Mailbox } from './mailbox.ts';
import { runService } from './run-service.ts';
import { StandIns } from './stand-ins.ts';
import type { StoredPhone } from './store.ts';

/** Started by scripts/run.mjs beside the server. */
const {
  NIGHT_BELL_ADDRESS: address,
  NIGHT_BELL_GATEWAY_KEY: key,
  NIGHT_BELL_STAND_INS: storeFile,
  NIGHT_BELL_SEED: seed,
  NIGHT_BELL_PROFILE: profile,
  NIGHT_BELL_MAIL_PORT: mailPort,
} = process.env;
if (address === undefined || key === undefined || storeFile === undefined) {
  throw new Error('The stand-ins are started with npm start or npm run demo.');
}

const standIns = new StandIns({
  addresses: address.split(','),
  key,
  storeFile,
  setMood: (mood) => process.send?.({ mood }),
  profile: { ...usualProfile, ...(JSON.parse(profile ?? '{}') as Partial<Profile>) },
  seed: seed === undefined ? Date.now() >>> 0 : Number(seed),
});
standIns.start();
process.on('message', (message: { enrol?: string[]; typed?: StoredPhone[]; traffic?: boolean }) => {
  if (message.enrol !== undefined) void standIns.enrolAll(message.enrol);
  for (const phone of message.typed ?? []) standIns.addTyped(phone);
  if (message.traffic !== undefined) standIns.setTraffic(message.traffic, 1);
});
const mailbox = mailPort === undefined ? null : new Mailbox((letter) => standIns.keepLetter(letter));
await mailbox?.listen(Number(mailPort));
runService('The stand-ins', async () => {
  standIns.stop();
  await mailbox?.close();
});
process.send?.({ ready: true });
