import { simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import type { Letter } from '@night-bell/core/devices/protocol';

const mostBytes = 256 * 1024;

/** A post office for nobody but this machine: takes letters by SMTP and hands them to whoever reads them. */
export class Mailbox {
  private readonly server: SMTPServer;

  constructor(came: (letter: Letter) => void) {
    this.server = new SMTPServer({
      authOptional: true,
      disabledCommands: ['AUTH', 'STARTTLS'],
      size: mostBytes,
      // Who sends is known: it stands on this machine.
      disableReverseLookup: true,
      onData: (stream, session, done) => {
        simpleParser(stream)
          .then(({ subject, text }) => {
            const to = session.envelope.rcptTo.map(({ address }) => address).join(', ');
            came({ to, subject: subject ?? '', text: text ?? '', at: Date.now() });
            done();
          })
          .catch((error: unknown) => done(error instanceof Error ? error : new Error(String(error))));
      },
    });
    // A letter that was cut off is sent again; nothing is lost by it.
    this.server.on('error', () => undefined);
  }

  /** Resolves to the port. */
  listen(port: number): Promise<number> {
    return new Promise((resolve, reject) => {
      const listening = this.server.listen(port, '127.0.0.1', () => {
        const address = listening.address();
        resolve(typeof address === 'object' && address !== null ? address.port : port);
      });
      listening.once('error', reject);
    });
  }

  close(): Promise<void> {
    return new Promise((resolve) => this.server.close(() => resolve()));
  }
}
