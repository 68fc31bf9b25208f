import { runService } from '../run-service.ts';
import { NumberShop } from './server.ts';
import { Stock } from './stock.ts';

/** Started by scripts/run.mjs: a service of its own, with its own key and its own memory. */
const { NUMBER_SHOP_FILE: file, NUMBER_SHOP_KEY: key } = process.env;
if (file === undefined || key === undefined)
  throw new Error('The number shop is started with npm start or npm run demo.');

const shop = new NumberShop(new Stock(file), key);
const port = await shop.listen(Number(process.env.NUMBER_SHOP_PORT ?? 0));
process.send?.({ ready: true, port });
runService('The number shop', () => shop.close());
