import { runService } from '../run-service.ts';
import { SailingBot } from './server.ts';

/** Started by scripts/run.mjs for the demo: a service of its own, with its own key. */
const { SAILING_BOT_KEY: key } = process.env;
if (key === undefined) throw new Error('The sailing bot is started with npm run demo.');

const bot = new SailingBot(key);
const port = await bot.listen(Number(process.env.SAILING_BOT_PORT ?? 0));
process.send?.({ ready: true, port });
runService('The sailing bot', () => bot.close());
