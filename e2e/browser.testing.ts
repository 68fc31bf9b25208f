import { type ChildProcess, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Profile } from '@night-bell/core/rehearse/behaviour';
import puppeteer, { type Browser, type ElementHandle, type Page } from 'puppeteer-core';

const project = fileURLToPath(new URL('..', import.meta.url));
const flags = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

export interface Started {
  address: string;
  firstAdministratorCode: string;
  server: ChildProcess;
  /** Ends the server as `kill -9` does and starts it again on the same data and port. */
  crash: () => Promise<void>;
  stop: () => Promise<void>;
}

/** The built server and stand-ins as processes, on a database of their own in the tests' cluster. */
export async function startNightBell(profile: Partial<Profile> = {}): Promise<Started> {
  const cluster = process.env.NIGHT_BELL_TEST_DATABASE;
  if (cluster === undefined)
    throw new Error('Run these through npm test, which starts PostgreSQL and builds.');
  const { connect } = await import('../server/src/database/connection.ts');
  const name = `e2e_${randomBytes(6).toString('hex')}`;
  const admin = connect(cluster);
  await admin.raw(`create database ${name}`);
  const folder = mkdtempSync(join(tmpdir(), 'night-bell-'));
  const port = await freePort();
  const address = `http://127.0.0.1:${port}`;
  const key = randomBytes(18).toString('base64url');
  const environment = {
    NIGHT_BELL_DATABASE: cluster.replace(/\/postgres$/, `/${name}`),
    NIGHT_BELL_KEY: join(folder, 'sealing-key'),
    NIGHT_BELL_GATEWAY_KEY: key,
    NIGHT_BELL_PORT: String(port),
    NIGHT_BELL_WEB: join(project, 'web/dist'),
    NIGHT_BELL_ADDRESS: address,
    NIGHT_BELL_STAND_INS: join(folder, 'stand-ins.json'),
    // The stand-ins draw the same each time: with this seed the first phones that ring are lifted.
    NIGHT_BELL_SEED: '9',
    NIGHT_BELL_PROFILE: JSON.stringify(profile),
    NIGHT_BELL_LOG: 'fatal',
    NODE_ENV: 'production',
  };
  const first = await launch('server/dist/main.js', environment);
  const standIns = await launch('standins/dist/main.js', environment);
  const started: Started = {
    address,
    firstAdministratorCode: first.message.firstAdministratorCode ?? '',
    server: first.child,
    crash: async () => {
      await ended(started.server, 'SIGKILL');
      started.server = (await launch('server/dist/main.js', environment)).child;
    },
    stop: async () => {
      await ended(standIns.child, 'SIGTERM');
      await ended(started.server, 'SIGTERM');
      await admin.raw(`drop database ${name} with (force)`);
      await admin.destroy();
      rmSync(folder, { recursive: true, force: true });
    },
  };
  return started;
}

function launch(
  program: string,
  environment: Record<string, string>,
): Promise<{ child: ChildProcess; message: { firstAdministratorCode?: string } }> {
  const child = spawn(process.execPath, [join(project, program)], {
    env: { ...process.env, ...environment },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  return new Promise((resolve, reject) => {
    child.once('message', (message) =>
      resolve({ child, message: message as { firstAdministratorCode?: string } }),
    );
    child.once('exit', (code) => reject(new Error(`${program} ended with ${code}`)));
  });
}

function ended(child: ChildProcess, signal: NodeJS.Signals): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    child.once('exit', () => resolve());
    child.kill(signal);
  });
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}

export function startChromium(): Promise<Browser> {
  return puppeteer.launch({
    executablePath: '/usr/bin/chromium',
    args: flags,
    defaultViewport: { width: 1280, height: 800 },
  });
}

/** What a person does at a page, waiting for what they would wait for. */
export class Hand {
  readonly page: Page;
  readonly complaints: string[] = [];

  constructor(page: Page) {
    this.page = page;
    page.setDefaultTimeout(12_000);
    page.on('pageerror', (error) => this.complaints.push(String(error)));
  }

  /** Waits until the text stands somewhere on the page. */
  async sees(text: string, within = 'body', seconds = 12): Promise<void> {
    await this.page
      .waitForFunction(
        (wanted, place) =>
          document.querySelector(place)?.textContent?.replace(/\s+/g, ' ').includes(wanted) === true,
        { timeout: seconds * 1_000 },
        text,
        within,
      )
      .catch(async () => {
        const shown = await this.page.$eval('body', (body) => body.innerText.slice(0, 1_500));
        throw new Error(`"${text}" did not appear. The page says: ${shown}`);
      });
  }

  /** Presses the button or link with this text. */
  async presses(text: string): Promise<void> {
    await this.clicks('button, a, label', text, 'starts');
  }

  async types(selector: string, text: string): Promise<void> {
    await this.page.waitForSelector(selector);
    await this.page.focus(selector);
    await this.page.$eval(selector, (input) => (input as HTMLInputElement).select());
    await this.page.keyboard.type(text);
  }

  /** Types into a choosing field and takes the entry that fits. */
  async chooses(selector: string, text: string): Promise<void> {
    await this.page.waitForSelector(selector);
    await this.page.focus(selector);
    await this.page.$eval(selector, (input) => (input as HTMLInputElement).select());
    await this.page.keyboard.type(text);
    // The menu moves while it opens; the entry itself is pressed, not the place where it was.
    await this.page.waitForFunction(
      (wanted) => {
        const option = [...document.querySelectorAll<HTMLElement>('.v-overlay .v-list-item')].find((each) =>
          each.textContent.includes(wanted),
        );
        option?.click();
        return option !== undefined;
      },
      {},
      text,
    );
  }

  /** Goes to an area by the index. The link itself is pressed, wherever the page has moved it meanwhile. */
  async goes(area: string, heading: string): Promise<void> {
    const link = `nav.index a[href="/${area}"]`;
    await this.page.waitForSelector(link);
    await this.page.$eval(link, (element) => (element as HTMLElement).click());
    await this.sees(heading, 'main h1');
  }

  /** Opens the row of a list that has this text. */
  async opens(text: string): Promise<void> {
    await this.clicks('tbody tr', text, 'holds');
  }

  /**
   * Waits for a drawn, usable element with this text that has stopped moving, and clicks in its middle.
   * Rows that come while the page fills push what stands below; a click at where it was would hit nothing.
   */
  private async clicks(selector: string, text: string, how: 'starts' | 'holds'): Promise<void> {
    const giveUpAt = Date.now() + 12_000;
    for (;;) {
      const handle = await this.page.waitForFunction(
        async (among, wanted, match, patientUntil) => {
          const found = [...document.querySelectorAll<HTMLElement>(among)].find((each) => {
            const said = each.textContent.replace(/\s+/g, ' ').trim();
            const fits = match === 'starts' ? said.startsWith(wanted) : said.includes(wanted);
            return fits && each.getClientRects().length > 0 && !(each as HTMLButtonElement).disabled;
          });
          if (found === undefined) return undefined;
          found.scrollIntoView({ block: 'center', behavior: 'instant' });
          const place = () => Object.values(found.getBoundingClientRect().toJSON()).join(' ');
          const before = place();
          await new Promise((frame) => setTimeout(frame, 50));
          if (place() !== before) return undefined;
          // A notice may lie over it for a moment.
          const { left, top, width, height } = found.getBoundingClientRect();
          const hit = document.elementFromPoint(left + width / 2, top + height / 2);
          const isCovered = hit === null || !(found.contains(hit) || hit.contains(found));
          return isCovered && Date.now() < patientUntil ? undefined : found;
        },
        {},
        selector,
        text,
        how,
        Date.now() + 4_000,
      );
      const found = handle.asElement() as ElementHandle<HTMLElement>;
      const reached = await found.evaluateHandle((each) => {
        const press = { down: false };
        each.addEventListener('pointerdown', () => (press.down = true), { capture: true, once: true });
        return press;
      });
      try {
        await found.click();
        // It moved between being found and the press, which fell beside it: pressed again, where it is now. What was
        // reached and did nothing all the same is a fault of the page.
        const down = await reached.evaluate((press) => press.down).catch(() => true);
        if (down || Date.now() > giveUpAt) return;
      } catch (error) {
        // The page drew itself anew between finding and clicking; what is there now is clicked.
        const moved = /detached|not clickable/.test(String(error));
        if (!moved || Date.now() > giveUpAt) throw error;
      }
    }
  }
}
