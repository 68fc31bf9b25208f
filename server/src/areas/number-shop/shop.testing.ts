import { NumberShop } from '../../../../standins/src/number-shop/server.ts';
import { Stock } from '../../../../standins/src/number-shop/stock.ts';
import type { ShopConnection } from './shop.ts';

const key = 'key of the shop';

/** The shop that ships with Night Bell in this process, on a clock that tests may move. */
export class NumberShopForTests {
  readonly stock: Stock;
  private shop: NumberShop;
  private offset = 0;
  private port = 0;

  private constructor(file: string) {
    this.stock = new Stock(file, () => Date.now() + this.offset);
    this.shop = new NumberShop(this.stock, key);
  }

  static async start(file: string): Promise<NumberShopForTests> {
    const shop = new NumberShopForTests(file);
    shop.port = await shop.shop.listen(0);
    return shop;
  }

  get door(): ShopConnection {
    return { address: `http://127.0.0.1:${this.port}`, key };
  }

  /** Lets so much time pass at the shop. */
  pass(ms: number): void {
    this.offset += ms;
  }

  close(): Promise<void> {
    return this.shop.close();
  }

  async reopen(): Promise<void> {
    this.shop = new NumberShop(this.stock, key);
    await this.shop.listen(this.port);
  }
}
